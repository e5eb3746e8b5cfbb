import { TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import type { MixEntry, Paint } from '../../api/client';
import { Term } from '../../common/Term';
import { deltaE } from '../../parts/numbers';
import { Picker } from '../../parts/Picker';
import { PLACE_NAMES } from '../../parts/places';
import { useFilm } from '../../state/bench';

/** What a glaze, a wash or a wax leaves over a ground: bare, on an edge, on the flat, in a recess, touching each other. */
export function Films({ entry, shelf }: { entry: MixEntry; shelf: Paint[] }) {
  const inside = entry.components.map((part) => part.paint);
  const grounds = shelf.filter((paint) => !paint.medium);
  const [chosen, setChosen] = useState<string>();
  const ground = chosen ?? grounds.find((paint) => !inside.includes(paint.id))?.id;
  const { data } = useFilm(entry.components, ground);
  if (!ground) return null;
  const films = data
    ? ['edge', 'field', 'recess'].flatMap((place) => data.films.filter((f) => f.place === place))
    : [];
  return (
    <section aria-label="Film over a ground" className="grid gap-2 border-t border-line pt-3">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 className="text-lg first-letter:uppercase">
          {data?.term ? <Term id={data.term}>{data.kind}</Term> : (data?.kind ?? 'film')}
        </h2>
        <Picker
          label="Over which ground"
          choices={grounds.map((paint) => ({ id: paint.id, name: `over ${paint.entry.name}` }))}
          value={ground}
          onChange={setChosen}
        />
      </div>
      <ul aria-label="Films" className="grid grid-cols-4">
        <li className="grid content-start gap-1">
          <span aria-hidden className="h-16" style={{ background: data?.ground ?? 'transparent' }} />
          <span className="text-sm font-semibold">Bare</span>
        </li>
        {films.map((film) => (
          <li key={film.place} className="grid content-start gap-1">
            <span aria-hidden className="h-16" style={{ background: film.hex }} />
            <span className="pr-3 text-sm leading-tight">
              <b className="inline-block first-letter:uppercase">{PLACE_NAMES[film.place]}</b>,{' '}
              {Math.round(film.wet_um)} µm
              <span className="block text-soft">
                {film.words}, ΔE00 {deltaE(film.difference)}
              </span>
            </span>
          </li>
        ))}
      </ul>
      {data?.warnings.map((warning) => (
        <p key={warning.words} className={`flex items-start gap-2 ${warning.fails ? 'font-semibold' : ''}`}>
          <TriangleAlert size={18} aria-hidden className="mt-0.5 shrink-0" /> {warning.words}
        </p>
      ))}
    </section>
  );
}
