import { useState } from 'react';
import type { EyeSkill, PracticeView, SkillView } from '../../api/client';
import { useInLights } from '../../light/light';
import { PaintPicker } from '../../parts/PaintPicker';
import { Failed, Waiting } from '../../parts/Waiting';
import { usePractice } from '../../state/practice';
import { usePaints } from '../../state/workspace';
import { Hand } from './Hand';
import { Round } from './Round';

/** Short rounds for the eye: what to practise next, how each skill goes, and whether the screen can be trusted. */
export function Practice() {
  const { data, error, refetch } = usePractice();
  const [at, setAt] = useState<SkillView>();
  useInLights(undefined);
  if (error && !data) return <Failed error={error} retry={() => void refetch()} />;
  if (!data) return <Waiting rows={8} />;
  if (at)
    return (
      <Round
        key={at.skill}
        skill={at}
        onEnd={() => {
          setAt(undefined);
          void refetch();
        }}
      />
    );
  const next = data.skills.find(({ skill }) => skill === data.next);
  return (
    <div className="grid gap-x-10 gap-y-6 px-4 pt-2 pb-6 md:px-5 lg:grid-cols-[minmax(0,1fr)_24rem] lg:grid-rows-[auto_1fr]">
      <section aria-label="Practice" className="grid gap-3">
        <h1 className="text-3xl">Practice</h1>
        <p className="max-w-prose text-soft">
          A round takes about a minute. It uses {data.from_chart ? 'common colours' : 'your own paints'}, gets
          harder as you improve, and changes nothing on your shelf.
        </p>
        {next && (
          <button type="button" className="press press-ink justify-self-start" onClick={() => setAt(next)}>
            Start: {next.name.toLowerCase()}
          </button>
        )}
      </section>
      <Skills skills={data.skills} next={data.next} onStart={setAt} />
      <div className="grid content-start gap-8 lg:col-start-2 lg:row-span-2 lg:row-start-1">
        <Screen greys={data.greys} />
        <Hand />
      </div>
    </div>
  );
}

function Skills({
  skills,
  next,
  onStart,
}: {
  skills: SkillView[];
  next: EyeSkill;
  onStart: (skill: SkillView) => void;
}) {
  return (
    <section aria-label="Skills" className="grid gap-2">
      <h2 className="text-2xl">Skills</h2>
      <ul className="grid gap-px">
        {skills
          .filter(({ possible }) => possible)
          .map((one) => (
            <li key={one.skill}>
              <button
                type="button"
                onClick={() => onStart(one)}
                className="grid w-full cursor-pointer grid-cols-[1fr_7rem_4rem] items-center gap-3 bg-panel px-3 py-2 text-left hover:bg-paper sm:grid-cols-[1fr_12rem_9rem_4rem]"
              >
                <span>
                  <span className="font-semibold">{one.name}</span>
                  {one.skill === next && <span className="text-soft">, practise next</span>}
                </span>
                <span className="text-sm text-soft max-sm:hidden">{one.can}</span>
                <Weeks weeks={one.weeks} />
                <span className="text-right text-sm text-soft">
                  {one.answers === 0 ? 'new' : `level ${one.level + 1}`}
                </span>
              </button>
            </li>
          ))}
      </ul>
      {skills.some(({ possible }) => !possible) && (
        <p className="text-sm text-soft">
          Once your shelf can make a ready finish, you can practise{' '}
          {skills
            .filter(({ possible }) => !possible)
            .map(({ name }) => name.toLowerCase())
            .join(' and ')}{' '}
          too.
        </p>
      )}
    </section>
  );
}

/** Levels by week, as bars. */
function Weeks({ weeks }: { weeks: SkillView['weeks'] }) {
  return (
    <span aria-hidden className="flex h-6 items-end gap-0.5">
      {weeks.slice(-12).map(({ monday, level }) => (
        <span key={monday} className="w-2 bg-ink" style={{ height: `${8 + (level / 12) * 92}%` }} />
      ))}
    </span>
  );
}

/** Whether the screen shows what is asked for: greys in even steps, and a paint to hold a card against. */
function Screen({ greys }: { greys: PracticeView['greys'] }) {
  const paints = (usePaints().data ?? []).filter((paint) => !paint.medium);
  const [beside, setBeside] = useState('');
  const paint = paints.find(({ id }) => id === beside) ?? paints.find(({ house_white }) => house_white);
  return (
    <section aria-label="Check the screen" className="grid gap-3">
      <h2 className="text-2xl">Check the screen first</h2>
      <div role="img" aria-label="Eleven greys from black to white" className="flex h-14">
        {greys.map((hex) => (
          <span key={hex} className="flex-1" style={{ background: hex }} />
        ))}
      </div>
      <p className="max-w-prose text-sm text-soft">
        You should see eleven even steps, the two darkest apart and the two lightest apart. If not, change the
        brightness and turn off night colours. Then hold a dry card of a paint you know beside its swatch: a
        screen shows most paints well, but no vivid greens and violets, no gloss and no metallics, and it
        glows where paint does not.
      </p>
      {paint && (
        <div className="flex flex-wrap items-end gap-3">
          <span
            role="img"
            aria-label={`${paint.entry.name}, ${paint.swatch.face.hex}`}
            className="h-24 w-48"
            style={{ background: paint.swatch.face.hex }}
          />
          <PaintPicker
            label="Paint to compare"
            choices={paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch }))}
            value={paint.id}
            onChange={setBeside}
          />
        </div>
      )}
    </section>
  );
}
