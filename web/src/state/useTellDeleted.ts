import { useQueryClient } from '@tanstack/react-query';
import { useTell } from '../parts/Notice';
import { historyNow, useUndo } from './workspace';

/** Says that something was deleted, with the way back beside it. */
export function useTellDeleted() {
  const tell = useTell();
  const undo = useUndo('undo', tell);
  const client = useQueryClient();
  return async (what: string, id: string) => {
    // Somebody may have changed something else since: then there is no way back but by the rail.
    const last = await historyNow(client).catch(() => undefined);
    const change = last?.undo?.document === id ? last.undo.change : undefined;
    if (change === undefined) return tell(`${what} deleted`);
    tell(`${what} deleted`, {
      name: 'Undo',
      hint: 'Press Ctrl Z or the Undo button',
      act: () => undo.mutate(change),
    });
  };
}
