import type { Board } from '../../api/client';
import { useSchools } from '../../state/boards';
import { mended } from './entry';
import { Way } from './Way';

interface Props {
  entry: Board;
  letter: string;
  onChange: (entry: Board) => void;
}

/** Where the trade disagrees: the same strip as another school does it. None is right or wrong. */
export function Schools({ entry, letter, onChange }: Props) {
  const { data, isPlaceholderData } = useSchools(entry, letter);
  if (!data) return null;
  return (
    <section aria-label="Other methods" className="grid gap-3 rounded bg-panel p-3">
      {data.schools.length === 0 && <p role="status">Most painters would do this strip the same way.</p>}
      {data.schools.map(({ id, question, ways }) => (
        <div key={id} className="grid gap-1">
          <h2 className="text-base font-semibold">{question}</h2>
          <ul aria-label={question} className="grid gap-px">
            {ways.map((way) => (
              <Way
                key={way.id}
                way={way}
                before={data.before}
                source={data.source}
                stale={isPlaceholderData}
                onTake={() => onChange(mended(entry, letter, way))}
              />
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}
