import type { SkillLearned } from '../../api/client';
import { plainNumber } from '../../parts/numbers';
import { clockOf } from '../../parts/times';
import { useSkills } from '../../state/log';

const clock = clockOf(undefined);
const [WIDE, HIGH] = [96, 40];

/** What was learned of this painter, technique by technique, and how it came. */
export function Skills() {
  const { data } = useSkills();
  if (!data || data.length === 0) return null;
  return (
    <section aria-label="Your touch" className="grid gap-2">
      <h2 className="text-lg">Your touch</h2>
      <ul aria-label="What was learned of it" className="grid gap-px">
        {data.map((skill) => (
          <li key={skill.technique + skill.of} className="flex items-center gap-3 bg-panel px-3 py-2">
            <div className="min-w-0 flex-1 leading-tight">
              <p className="font-semibold">{skill.name}</p>
              <p className="text-sm first-letter:uppercase">{skill.words}</p>
            </div>
            <Course skill={skill} />
          </li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        Dot: your {used(data)} compared with the usual (the line). Bar: likely range.
      </p>
    </section>
  );
}

function used(skills: SkillLearned[]) {
  return [...new Set(skills.map(({ of }) => (of === 'pace' ? 'time' : 'film')))].join(' or ');
}

/** How it came to be known: the bars shorten as more is read. */
function Course({ skill: { name, of, points } }: { skill: SkillLearned }) {
  const most = Math.max(1.5, ...points.map(({ times, within }) => within * Math.max(times, 1 / times)));
  const y = (times: number) => HIGH / 2 - (Math.log(times) / Math.log(most)) * (HIGH / 2 - 5);
  const step = WIDE / points.length;
  const last = points.at(-1);
  const now = last && `${plainNumber(last.times)} times the usual, within ×${plainNumber(last.within)}`;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-24 shrink-0"
      role="img"
      aria-label={`${name}, ${of === 'pace' ? 'time' : 'film'}: ${now}`}
    >
      <line x1="0" x2={WIDE} y1={y(1)} y2={y(1)} className="stroke-edge" />
      {points.map(({ at, times, within }, n) => {
        const x = step * (n + 0.5);
        const [top, foot] = [y(times * within), y(times / within)];
        return (
          <g key={at + String(n)}>
            <title>
              {clock.short(at)}: {plainNumber(times)} times, within ×{plainNumber(within)}
            </title>
            <rect x={x - 2.5} width="5" y={top} height={foot - top} className="fill-line" />
            <circle cx={x} cy={y(times)} r="3" className="fill-ink" />
          </g>
        );
      })}
    </svg>
  );
}
