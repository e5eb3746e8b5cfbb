import type { PaintPage } from '../../api/client';
import { STATES, useLight, useLights } from '../../light/light';
import { Wedge } from '../../parts/Drawdown';

const nameOf = (id: string) => STATES.find((state) => state.id === id)?.name ?? id;

/** The drawdown of a paint in every light and state, side by side and touching; the one that is looked at is marked. */
export function Looks({ looks }: { looks: PaintPage['looks'] }) {
  const lights = useLights();
  const { light, setLight, state, setState } = useLight();
  return (
    <section aria-label="In every light and state" className="grid gap-1">
      <div className="grid grid-cols-[3.75rem_repeat(7,minmax(0,1fr))] items-end text-xs text-soft">
        <span />
        {lights.map((choice) => (
          <span
            key={choice.id}
            className={`pb-1 leading-tight ${choice.id === light ? 'font-bold text-ink' : ''}`}
          >
            {choice.name}
          </span>
        ))}
        {looks.map((row) => (
          <div key={row.state} className="contents">
            <span className={`self-center text-sm ${row.state === state ? 'font-bold text-ink' : ''}`}>
              {nameOf(row.state)}
            </span>
            {row.lights.map((look, i) => {
              const at = lights[i];
              return (
                <button
                  key={at?.id ?? i}
                  type="button"
                  aria-label={`${nameOf(row.state)}, ${at?.name ?? ''}: ${look.face}`}
                  aria-pressed={row.state === state && at?.id === light}
                  className="h-14 cursor-pointer focus-visible:z-10"
                  onClick={() => {
                    setState(row.state);
                    if (at) setLight(at.id);
                  }}
                >
                  <Wedge look={look} />
                </button>
              );
            })}
          </div>
        ))}
      </div>
      <p className="text-sm text-soft">
        {looks
          .filter((row) => row.words)
          .map((row) => `${nameOf(row.state)}: ${row.words}`)
          .join('. ')}
        .
      </p>
    </section>
  );
}
