import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { TouchUp as Mending, MixPart } from '../../api/client';
import { useInLights } from '../../light/light';
import { Doubt } from '../../parts/Doubt';
import { Field } from '../../parts/Field';
import { keyed } from '../../parts/keyed';
import { useTell } from '../../parts/Notice';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { Failed, Waiting } from '../../parts/Waiting';
import { useRunSheetCalls, useTouchUp } from '../../state/runSheet';
import { useToPot } from '../../state/useToPot';
import { usePiece } from '../../state/workspace';
import { NoKind } from './NoKind';

/** What is mixed for a spot, ml. */
const A_SPOONFUL = 5;

const SPOTS = [
  { id: 'chip', name: 'A chip' },
  { id: 'palm', name: 'A palm' },
] as const;
type SpotSize = (typeof SPOTS)[number]['id'];

/** The chip at the corner of the door: which pot, or what to mix, and in which order to dab it on. */
export function TouchUp() {
  useInLights(undefined);
  const piece = usePiece().data;
  const [spot, setSpot] = useState<SpotSize>('chip');
  const [zone, setZone] = useState('');
  const formed = Boolean(piece?.entry.form);
  const mending = useTouchUp(formed ? piece?.id : undefined, spot);
  if (piece && !formed)
    return (
      <NoKind
        title="Nothing to touch up yet"
        words="What was painted is known from the run sheet. First choose what the piece is."
      />
    );
  if (mending.isError) return <Failed error={mending.error} retry={() => mending.refetch()} />;
  if (!mending.data || !piece) return <Waiting rows={8} />;
  const { parts } = mending.data;
  const part = parts.find((one) => one.zone === zone) ?? parts[0];
  return (
    <article className="grid max-w-4xl gap-5 px-4 pt-2 pb-8 md:px-5">
      <Link to="/piece/record" className="press press-bare -ml-2 w-fit text-sm print:hidden">
        <ArrowLeft size={18} aria-hidden /> Record
      </Link>
      <h1 className="text-3xl">Touch up {mending.data.piece}</h1>
      {part ? (
        <>
          <div className="flex flex-wrap items-center gap-4 print:hidden">
            <Picker
              label="Part"
              choices={parts.map((one) => ({ id: one.zone, name: one.name }))}
              value={part.zone}
              onChange={setZone}
            />
            <Segments
              label="Size of the spot"
              choices={SPOTS}
              value={spot}
              onChange={setSpot}
              className="flex"
            />
          </div>
          <Dabs part={part} />
          <p className="max-w-prose">
            Clean and dry the spot first. Dab each layer on with a small, nearly dry brush, feather its edge
            with almost no pressure, and let it dry. Compare it with the old finish before the next.
          </p>
          <Noted key={part.zone} piece={piece.id} zone={part.zone} spot={spot} />
        </>
      ) : (
        <p className="max-w-prose text-soft">
          Nothing was ticked off on the run sheet yet, so it is not known what is on the piece.
        </p>
      )}
    </article>
  );
}

function Dabs({ part }: { part: Mending['parts'][number] }) {
  const clock = clockOf(undefined);
  const toPot = useToPot();
  const { attempt, busy } = useAction();
  const match = (parts: MixPart[]) =>
    attempt('Couldn’t take the mix to the Pot', () => toPot(parts, A_SPOONFUL, true));
  return (
    <ol aria-label="What to dab on" className="grid gap-px">
      {keyed(part.dabs, ({ how, pot }) => `${how} ${pot ?? ''}`).map(({ key, item: dab }, n) => (
        <li key={key} className="grid grid-cols-[3rem_1fr] gap-3 bg-panel px-3 py-3">
          <span aria-hidden className="size-12" style={dab.hex ? { background: dab.hex } : undefined} />
          <div className="grid gap-0.5">
            <p className="font-semibold">
              {n + 1}. {dab.how}
              {dab.pot && <span className="font-normal">, {dab.pot}</span>}
            </p>
            {dab.jar && (
              <p>
                <Link
                  to={`/${dab.jar.left ? 'jars' : 'label'}/${dab.jar.pour}`}
                  className="underline underline-offset-3"
                >
                  {dab.jar.left ? 'Jar' : 'Pot'} {dab.jar.code}
                </Link>
                {dab.jar.place && `, ${dab.jar.place}`}, poured {clock.short(dab.jar.poured_at)}
                {dab.jar.left
                  ? `: ${dab.jar.left} left. ${dab.jar.advice ?? ''}`
                  : ': use it if any is left, it still stirs smooth and smells fresh.'}
              </p>
            )}
            {dab.drops.length > 0 && (
              <p className={`first-letter:uppercase ${dab.jar ? 'text-sm text-soft' : ''}`}>
                {dab.jar && 'Or: '}
                {dab.drops.length > 1 && 'mix '}
                {dab.drops.join(', ')}.
                {dab.amount && <span className="text-sm text-soft"> The spot takes {dab.amount}.</span>}
              </p>
            )}
            {dab.drops.length === 0 && dab.amount && (
              <p className="text-sm text-soft">The spot takes {dab.amount}.</p>
            )}
            {dab.within != null && (
              <p className="text-sm">
                Mixed anew it may be off by <Doubt value={dab.within} />: {dab.shows}.
              </p>
            )}
            {dab.parts.length > 1 && (
              <button
                type="button"
                className="press press-plain mt-1 w-fit text-sm"
                disabled={busy}
                aria-label={`Match the old finish: ${dab.pot ?? ''}`}
                onClick={() => match(dab.parts)}
              >
                Read the old finish and match it
              </button>
            )}
            {dab.dries && <p className="text-sm text-soft">Let it dry {dab.dries}.</p>}
          </div>
        </li>
      ))}
    </ol>
  );
}

/** How it came out goes into the record and the log. */
function Noted({ piece, zone, spot }: { piece: string; zone: string; spot: SpotSize }) {
  const calls = useRunSheetCalls(piece);
  const tell = useTell();
  const { attempt, busy } = useAction();
  const [note, setNote] = useState('');
  const save = () =>
    attempt('Couldn’t save the touch-up', async () => {
      await calls.mended({ zone, spot, note: note.trim() || null });
      setNote('');
      tell('It’s in the record and the log');
    });
  return (
    <div className="flex max-w-prose flex-wrap items-end gap-3 print:hidden">
      <Field
        className="min-w-60 flex-1"
        label="How did it come out?"
        placeholder="a touch lighter than the old coat"
        error={undefined}
        value={note}
        onChange={setNote}
      />
      <button type="button" className="press press-ink" disabled={busy} onClick={save}>
        Save the touch-up
      </button>
    </div>
  );
}
