import { useChart } from '../../../state/guide';

/** Common colour names, by family: a start for a tin without a code. */
export function Chart({ onChosen }: { onChosen: (hex: string) => void }) {
  const chart = useChart() ?? [];
  const families = [...new Set(chart.map(({ family }) => family))];
  return (
    <div className="grid gap-3">
      <p className="text-sm text-soft">
        Tap the nearest. It counts as judged by eye: mixes with it are rough until you make a tint test.
      </p>
      {families.map((family) => (
        <section key={family} aria-label={family} className="grid gap-1">
          <h3 className="text-sm font-semibold first-letter:uppercase">{family}</h3>
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(5.5rem,1fr))]">
            {chart
              .filter((row) => row.family === family)
              .map(({ name, hex }) => (
                <li key={name}>
                  <button
                    type="button"
                    onClick={() => onChosen(hex)}
                    className="w-full cursor-pointer text-left focus-visible:relative focus-visible:z-10"
                  >
                    <span aria-hidden className="block h-12" style={{ background: hex }} />
                    <span className="block truncate py-1 text-sm">{name}</span>
                  </button>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
