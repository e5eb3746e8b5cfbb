import { Link } from 'react-router';
import { Failed, Waiting } from '../../parts/Waiting';
import { useRunSheet } from '../../state/runSheet';
import { usePiece } from '../../state/workspace';
import { Plan } from './Plan';

/** The run sheet of the piece at hand. */
export function RunSheet() {
  const piece = usePiece();
  const formed = piece.data?.entry.form ? piece.data.id : undefined;
  const sheet = useRunSheet(formed);
  const failed = [piece, sheet].find((query) => query.isError && !query.data);
  if (failed?.error) return <Failed error={failed.error} retry={() => failed.refetch()} />;
  if (piece.data && !formed)
    return (
      <section className="m-auto grid max-w-md justify-items-start gap-3 p-8">
        <h1 className="text-3xl">Nothing to plan yet</h1>
        <p>
          Set up the piece first: what it is, and the finish on each part. The run sheet is made from that.
        </p>
        <Link to="/piece" className="press press-ink">
          Set up the piece
        </Link>
      </section>
    );
  if (!piece.data || !sheet.data) return <Waiting rows={12} />;
  return <Plan key={piece.data.id} piece={piece.data} sheet={sheet.data} />;
}
