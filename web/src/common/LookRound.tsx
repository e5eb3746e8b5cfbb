import { Footprints } from 'lucide-react';
import { TroubleLine } from '../parts/TroubleLine';
import { useDemo, useVisitDemo } from '../state/demo';

/** The way to the demo, for whoever has nothing of their own yet. */
export function LookRound() {
  const { data } = useDemo();
  const visit = useVisitDemo();
  if (!data?.offered) return null;
  return (
    <div className="grid justify-items-center gap-1 border-t border-line pt-4">
      <button type="button" className="press" disabled={visit.isPending} onClick={() => visit.mutate()}>
        <Footprints size={20} aria-hidden /> {visit.isPending ? 'Opening the demo…' : 'Try the demo'}
      </button>
      <p className="text-sm text-soft">
        A half-finished piano with six weeks of work on it. Separate from yours, and not kept.
      </p>
      {visit.error && <TroubleLine className="text-sm">{visit.error.message}</TroubleLine>}
    </div>
  );
}
