import { AddMedium } from '../../common/AddMedium';
import { UsualMediums } from '../../common/UsualMediums';
import { BY_THE_WINDOW } from '../../parts/Lamp';
import { WhenSeen } from '../../parts/WhenSeen';
import type { useReadyFinishes } from '../../state/boards';
import { Picture } from './Picture';

interface Props {
  finishes: ReturnType<typeof useReadyFinishes>;
  chosen: string;
  onChoose: (id: string) => void;
}

/** Ways of working to begin from, each drawn with the paints at hand. */
export function ReadyFinishes({ finishes, chosen, onChoose }: Props) {
  if (!finishes) return null;
  return (
    <section aria-label="Ready finishes" className="grid gap-3">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2 className="text-2xl">Ready finishes</h2>
        {finishes.some(({ medium }) => medium) && <UsualMediums />}
      </div>
      <ul className="grid gap-3 sm:grid-cols-2 xl:grid-cols-3">
        {finishes.map(({ id, name, note, suits, skill, takes, entry, lacks, medium }) => (
          <li
            key={id}
            className={`relative ${id === chosen ? 'bg-paper outline-3 outline-ink' : 'bg-panel has-enabled:hover:bg-paper'}`}
          >
            <WhenSeen className="aspect-2/1 w-full">
              {entry && (
                <Picture
                  entry={entry}
                  letter={entry.strips[0]?.letter ?? 'A'}
                  layers={undefined}
                  lit={BY_THE_WINDOW}
                  all={entry.strips.length > 1}
                  small={false}
                  width={420}
                  alt=""
                />
              )}
            </WhenSeen>
            <div className="grid gap-1 p-3 text-sm leading-snug">
              {/* The whole card is the button's to touch. */}
              <button
                type="button"
                aria-pressed={id === chosen}
                aria-describedby={`ready-${id}`}
                disabled={!entry}
                onClick={() => onChoose(id)}
                className="cursor-pointer text-left text-base font-semibold after:absolute after:inset-0 disabled:cursor-default"
              >
                {name}
              </button>
              <p id={`ready-${id}`}>
                {note}{' '}
                <span className="text-soft">
                  {lacks ? `${upper(lacks)}.` : `For ${suits}. ${upper(skill)}; ${takes}.`}
                </span>
              </p>
              {medium && <AddMedium medium={medium} />}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

const upper = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
