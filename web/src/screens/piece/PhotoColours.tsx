import { Link } from 'react-router';
import type { PhotoPalette } from '../../api/client';
import { deltaE } from '../../parts/numbers';

interface Props {
  palette: PhotoPalette;
  /** Those that are taken, by their places. */
  chosen: number[];
  onChosen: (chosen: number[]) => void;
}

/** The colours of a photo, each beside what would make it; the two touch. */
export function PhotoColours({ palette, chosen, onChosen }: Props) {
  return (
    <>
      {palette.warnings.map((warning) => (
        <p key={warning} role="alert" className="text-sm font-semibold">
          {warning}.
        </p>
      ))}
      <p className="ml-12 grid w-28 grid-cols-2 text-sm text-soft">
        <span>Photo</span>
        <span>Mixed</span>
      </p>
      <ol aria-label="Colours of the photo" className="grid gap-px">
        {palette.colours.map((colour, n) => (
          <li
            key={`${colour.hex} ${String(n)}`}
            className="grid grid-cols-[2.25rem_7rem_minmax(0,1fr)] items-stretch gap-3 bg-panel"
          >
            <label className="grid place-items-center content-center gap-1 pl-2 text-sm font-semibold">
              {n + 1}
              <input
                type="checkbox"
                className="size-5 accent-ink"
                aria-label={`Use colour ${n + 1}`}
                disabled={!colour.recipe}
                checked={chosen.includes(n)}
                onChange={(event) =>
                  onChosen(event.target.checked ? [...chosen, n].sort() : chosen.filter((own) => own !== n))
                }
              />
            </label>
            <span aria-hidden className="grid min-h-18 grid-cols-2">
              <span style={{ background: colour.in_light }} />
              <span style={{ background: colour.recipe?.hex ?? colour.in_light }} />
            </span>
            <div className="py-2 pr-2 leading-tight">
              <p>
                <b className="font-semibold">{colour.percent} %</b>, {colour.how}
              </p>
              {colour.recipe && (
                <>
                  <p className="text-sm">{colour.recipe.words}</p>
                  <p className="text-sm text-soft">
                    {colour.recipe.judgement.words}, ΔE {deltaE(colour.recipe.judgement.difference)}
                  </p>
                </>
              )}
              {!colour.recipe && colour.shade_of == null && (
                <Link to="/shelf" className="text-sm underline underline-offset-2">
                  What is on the shelf
                </Link>
              )}
            </div>
          </li>
        ))}
      </ol>
    </>
  );
}
