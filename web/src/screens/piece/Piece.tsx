import { Failed, Waiting } from '../../parts/Waiting';
import { useBoards } from '../../state/boards';
import { usePieceChoices } from '../../state/piece';
import { useMixes, usePaints, usePiece } from '../../state/workspace';
import { Stand } from './Stand';

/** The piece at hand: its elevation in what it wears, and whether its parts belong together. */
export function Piece() {
  const piece = usePiece();
  const boards = useBoards();
  const paints = usePaints();
  const mixes = useMixes();
  const choices = usePieceChoices();
  const failed = [piece, boards, paints, mixes].find((query) => query.isError && !query.data);
  if (failed?.error) return <Failed error={failed.error} retry={() => failed.refetch()} />;
  if (!piece.data || !boards.data || !paints.data || !mixes.data || !choices) return <Waiting rows={12} />;
  return (
    <Stand
      key={piece.data.id}
      piece={piece.data}
      choices={choices}
      boards={boards.data}
      shelf={paints.data}
      mixes={mixes.data}
    />
  );
}
