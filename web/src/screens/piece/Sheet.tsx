import { ArrowLeft, BookOpen, Printer } from 'lucide-react';
import { Link } from 'react-router';
import type { PieceKept } from '../../api/client';
import { NotPredicted } from '../../common/NotPredicted';
import { useLights } from '../../light/light';
import { Failed, Waiting } from '../../parts/Waiting';
import { shownOn } from '../../state/onPhoto';
import { useStanding } from '../../state/piece';
import { useRunSheet } from '../../state/runSheet';
import { usePiece } from '../../state/workspace';
import { Colours } from './Colours';
import { Elevation } from './Elevation';
import { chosenOf, schemeOf } from './entry';
import { NoKind } from './NoKind';
import { PhotoPicture } from './photo/PhotoPicture';

/** One page for the client: the chosen scheme in two lights. */
export function Sheet() {
  const piece = usePiece();
  if (piece.isError && !piece.data) return <Failed error={piece.error} retry={() => piece.refetch()} />;
  if (!piece.data) return <Waiting rows={12} />;
  if (!piece.data.entry.form)
    return (
      <NoKind
        title={piece.data.entry.name}
        words="There is nothing to show a client yet: first choose what kind of piece it is."
      />
    );
  return <Page piece={piece.data} />;
}

function Page({ piece }: { piece: PieceKept }) {
  const { entry } = piece;
  const at = chosenOf(entry);
  const preview = useStanding(entry, at);
  const lights = useLights();
  const care = useRunSheet(piece.id).data?.care_card ?? [];
  const [first = 'daylight', second = 'bulb'] = entry.brief?.lights ?? [];
  // The first photo that the finish can be shown on.
  const photo = shownOn(entry);
  const name = (id: string) => lights.find((light) => light.id === id)?.name ?? id;
  return (
    <div className="client-sheet mx-auto grid max-w-5xl gap-4 px-4 pt-2 pb-8 print:max-w-none print:px-0">
      <div className="flex items-center gap-2 print:hidden">
        <Link to="/piece" className="press press-bare text-sm">
          <ArrowLeft size={18} aria-hidden /> The piece
        </Link>
        <div className="flex-1" />
        <Link to="/piece/record" className="press press-bare text-sm">
          <BookOpen size={18} aria-hidden /> Record
        </Link>
        <button type="button" className="press press-ink" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </button>
      </div>
      <NotPredicted preview={preview} shown={undefined} />
      <header>
        <h1 className="text-3xl">{entry.name}</h1>
        <p>
          {[entry.brief?.client && `for ${entry.brief.client}`, schemeOf(entry).name]
            .filter(Boolean)
            .join(' · ')}
        </p>
        {entry.brief?.mood && <p className="max-w-prose text-soft">{entry.brief.mood}</p>}
      </header>
      <div className="grid gap-px sm:grid-cols-2 print:grid-cols-2">
        {photo < 0
          ? [first, second].map((light, n) => (
              <figure key={`${light} ${String(n)}`}>
                <Elevation entry={entry} scheme={at} view="front" light={light} />
                <figcaption className="py-1 text-sm">{name(light)}</figcaption>
              </figure>
            ))
          : [
              <figure key="before">
                <img
                  src={`/api/photos/kept/${entry.photos?.[photo]?.photo ?? ''}`}
                  alt="The piece as it is"
                  className="block aspect-4/3 w-full object-cover"
                />
                <figcaption className="py-1 text-sm">As it is</figcaption>
              </figure>,
              <figure key="after">
                <PhotoPicture entry={entry} n={photo} scheme={at} />
                <figcaption className="py-1 text-sm">As it will be</figcaption>
              </figure>,
            ]}
      </div>
      <section aria-label="Colours" className="grid gap-2">
        <h2 className="text-xl">Colours</h2>
        <ul className="grid grid-cols-2 gap-x-px gap-y-3 sm:grid-cols-4 print:grid-cols-4">
          {preview.last?.zones
            .filter(({ seen }) => seen)
            .map((zone) => (
              <li key={zone.zone} className="text-sm leading-tight">
                <Colours zone={zone} className="mb-1 h-16 print:h-9" />
                <b className="block text-base font-semibold">{zone.name}</b>
                <span className="block text-soft first-letter:uppercase">{zone.wears}</span>
                <span className="block text-soft">
                  {zone.percent == null ? 'Not painted' : `${zone.percent} % of the painted area`}
                </span>
              </li>
            ))}
        </ul>
      </section>
      {care.length > 0 && (
        <section aria-label="How to look after it" className="grid gap-1 print:gap-0">
          <h2 className="text-xl">How to look after it</h2>
          <ul className="grid list-disc gap-x-6 gap-y-1 pl-5 text-sm sm:grid-cols-2 print:grid-cols-2 print:gap-y-0 print:text-[8pt] print:leading-tight">
            {care.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </section>
      )}
      <p className="text-sm text-soft">
        A prediction from the paints on hand; screens and printers are only close. Judge the sample board in
        the room where the piece will stand.
      </p>
    </div>
  );
}
