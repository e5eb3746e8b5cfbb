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
        <p>The run sheet follows from the piece: say first what it is and what its parts wear.</p>
        <Link to="/piece" className="press press-ink">
          Say what it is
        </Link>
      </section>
    );
  if (!piece.data || !sheet.data) return <Waiting rows={12} />;
  return <Plan key={piece.data.id} piece={piece.data} sheet={sheet.data} />;
}
