import { useParams } from 'react-router';
import { Failed, Waiting } from '../../parts/Waiting';
import { useBoard, useBoardChoices, useBoards } from '../../state/boards';
import { useMixes, usePaints } from '../../state/workspace';
import { Boards } from './Boards';
import { Easel } from './Easel';

/** The sample boards: a list to choose from, and one of them to work on. */
export function Board() {
  const { id } = useParams();
  const boards = useBoards();
  const open = useBoard(id);
  const paints = usePaints();
  const mixes = useMixes();
  const choices = useBoardChoices();

  const failed = [boards, paints, mixes].find((query) => query.isError && !query.data);
  if (failed?.error) return <Failed error={failed.error} retry={() => failed.refetch()} />;
  if (!boards.data || !paints.data || !mixes.data || !choices) return <Waiting rows={12} />;
  if (id && open.isPending) return <Waiting rows={12} />;
  const kept = boards.data.some((board) => board.id === id) ? open.data : undefined;
  if (!kept) return <Boards boards={boards.data} choices={choices} gone={id !== undefined} />;
  return <Easel key={kept.id} board={kept} choices={choices} shelf={paints.data} mixes={mixes.data} />;
}
