import { Plus, Scale } from 'lucide-react';
import type { Measure, MixEntry, PotFix } from '../../api/client';
import { deltaE } from '../../parts/numbers';
import { useCorrections } from '../../state/bench';

interface Props {
  entry: MixEntry;
  /** How much is in the pot, and in which measure. */
  amount: number;
  measure: Measure;
  /** The addition was made: what is in the pot now, and how much of it. */
  onAdded?: ((fix: PotFix) => void) | undefined;
  /** Where a scale is at hand: an addition is to be weighed in. */
  onWeigh?: ((part: PotFix['additions'][number]) => void) | undefined;
}

/** What to add to the pot so that it comes nearer to its target: the next single addition, and the whole way. */
export function Correct({ entry, amount, measure, onAdded, onWeigh }: Props) {
  const { data, isPlaceholderData: old } = useCorrections(entry, amount, measure);
  if (!data) return null;
  const whole = data.ways[0];
  const same = JSON.stringify(whole?.additions) === JSON.stringify(data.next?.additions);
  const there = data.now.difference < 0.5;
  return (
    <section aria-label="Bring it nearer" className="grid gap-1">
      <h2 className="sr-only">Bring it nearer</h2>
      {data.words && <p className="text-sm">{data.words}</p>}
      {!there && data.next && (
        <Row title="Next" fix={data.next} old={old} onAdded={onAdded} onWeigh={onWeigh} />
      )}
      {!there && whole && !same && <Row title="Closest" fix={whole} old={old} onAdded={onAdded} />}
    </section>
  );
}

interface RowProps {
  title: string;
  fix: PotFix;
  /** True where it is of the pot as it was: the pot as it is now is being looked at. */
  old: boolean;
  onAdded: Props['onAdded'];
  onWeigh?: Props['onWeigh'];
}

function Row({ title, fix, old, onAdded, onWeigh }: RowProps) {
  const weighed = onAdded === undefined;
  const amount = (part: PotFix['additions'][number]) =>
    weighed ? `${part.grams.toFixed(1)} g` : part.amount;
  const additions = fix.additions.map((part) => `${amount(part)} ${part.name}`).join(' and ');
  const [first] = fix.additions;
  return (
    <div className="grid grid-cols-[4rem_minmax(0,1fr)_auto] items-center gap-3">
      <span aria-hidden className="flex h-12">
        <span className="flex-1" style={{ background: fix.judgement.target.hex }} />
        <span className="flex-1" style={{ background: fix.hex }} />
      </span>
      <p className="leading-tight">
        <span className="font-semibold">
          {title}: {fix.discard && `take out ${fix.discard}, then `}add {additions}
        </span>
        <span className="block text-sm text-soft">
          Gives <b className="font-semibold">{fix.likely}</b>, {fix.judgement.words}, ΔE00{' '}
          {deltaE(fix.judgement.difference)} at best
        </span>
      </p>
      {onAdded && (
        <button type="button" className="press press-plain" disabled={old} onClick={() => onAdded(fix)}>
          <Plus size={18} aria-hidden /> I added it <span className="sr-only">{additions}</span>
        </button>
      )}
      {onWeigh && first && (
        <button type="button" className="press press-plain" disabled={old} onClick={() => onWeigh(first)}>
          <Scale size={18} aria-hidden /> Weigh it in <span className="sr-only">{additions}</span>
        </button>
      )}
    </div>
  );
}
