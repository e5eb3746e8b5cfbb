import type { Draft } from '../state/useDraft';

/** Asks what to do when another tab changed the same thing first. Either way the other state stays in undo. */
export function Conflict({
  what,
  conflict,
}: {
  what: string;
  conflict: NonNullable<Draft<unknown>['conflict']>;
}) {
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-3 rounded bg-ink px-4 py-2 text-white on-dark"
    >
      <p className="min-w-60 flex-1 font-medium">
        This {what} was also changed elsewhere. Undo can bring back the version you don’t choose.
      </p>
      <button type="button" className="press bg-paper text-ink" onClick={conflict.keepMine}>
        Use this version
      </button>
      <button type="button" className="press bg-paper text-ink" onClick={conflict.takeTheirs}>
        Use the other version
      </button>
    </div>
  );
}
