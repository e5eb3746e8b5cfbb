import { useTell } from '../parts/Notice';
import { useUndo } from './workspace';

/** Says that something was deleted, with the way back beside it. */
export function useTellDeleted() {
  const tell = useTell();
  const undo = useUndo('undo', tell);
  return (what: string) =>
    tell(`${what} deleted`, {
      name: 'Undo',
      hint: 'Undo it with Ctrl Z, or with the button of the rail',
      act: () => undo.mutate(),
    });
}
