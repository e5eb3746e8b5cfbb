import type { ReadingMade } from '../api/client';
import { cameOut } from './cameOut';
import { Doubt } from './Doubt';

/** How well the parts of a sample were measured. */
export const POURS = [
  { id: 'eye', name: 'By eye' },
  { id: 'spoons', name: 'Level spoons' },
  { id: 'scale', name: 'Scale or syringe' },
] as const;

/** What the reading taught. */
export function Taught({ made, onClose }: { made: ReadingMade; onClose: () => void }) {
  const { reading, news } = made;
  return (
    <div className="grid gap-4">
      {reading.questioned ? (
        <p className="text-lg">
          Not used: this reading disagrees with the others ({reading.off.toFixed(1)} standard deviations).
          Check it on the paint’s page.
        </p>
      ) : (
        <ul aria-label="What it taught" className="grid gap-2">
          {news
            .filter((paint) => paint.before - paint.after > 0.05)
            .map((paint) => (
              <li key={paint.paint} className="font-display text-2xl font-semibold">
                Mixes with {paint.name}: now <Doubt value={paint.after} />, was <Doubt value={paint.before} />
              </li>
            ))}
          {news.every((paint) => paint.before - paint.after <= 0.05) && (
            <li className="text-lg">Agrees with earlier readings.</li>
          )}
        </ul>
      )}
      {made.came_out && <p className="text-soft">{cameOut(made.came_out)}</p>}
      <button type="button" className="press press-ink justify-self-end" onClick={onClose}>
        Done
      </button>
    </div>
  );
}
