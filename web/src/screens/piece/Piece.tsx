import { Failed, Waiting } from '../../parts/Waiting';
import { usePieceChoices } from '../../state/piece';
import { usePiece } from '../../state/workspace';
import { Stand } from './Stand';

/** The piece at hand: its elevation in what it wears, and whether its parts belong together. */
export function Piece() {
  const piece = usePiece();
  const choices = usePieceChoices();
  if (piece.isError && !piece.data) return <Failed error={piece.error} retry={() => piece.refetch()} />;
  if (!piece.data || !choices) return <Waiting rows={12} />;
  return <Stand key={piece.data.id} piece={piece.data} choices={choices} />;
}
