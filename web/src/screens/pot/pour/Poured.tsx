import { Tag } from 'lucide-react';
import { Link } from 'react-router';
import { onDay } from '../../../parts/numbers';
import { usePour, usePours } from '../../../state/pours';
import { useVolume } from '../../../state/scales';
import { ofPour, ReadPot } from '../ReadPot';

/** The pots that were made of a mix, the last first: read one, print its label. */
export function Poured({ mix }: { mix: string }) {
  const { data } = usePours(mix);
  const volume = useVolume();
  const done = data?.filter((pour) => !pour.open) ?? [];
  if (done.length === 0) return null;
  return (
    <section aria-label="Earlier batches" className="grid gap-1 border-t border-line pt-3">
      <h2 className="text-sm font-semibold">Earlier batches</h2>
      <ul className="grid gap-px">
        {done.slice(0, 4).map((pour) => (
          <li key={pour.id} className="flex min-h-12 flex-wrap items-center gap-3">
            <span aria-hidden className="h-11 w-14" style={{ background: pour.hex ?? 'transparent' }} />
            <span className="min-w-40 flex-1 leading-tight">
              <span className="block font-semibold">{pour.recipe}</span>
              <span className="text-sm text-soft">
                {onDay(pour.begun_at)}, {volume(pour.total_ml)}, {pour.code}
              </span>
            </span>
            <Read id={pour.id} />
            <Link to={`/jars/${pour.id}`} className="press press-plain">
              {pour.jar_ml == null ? 'Keep the rest' : 'Jar'} <span className="sr-only">of {pour.code}</span>
            </Link>
            <Link to={`/label/${pour.id}`} className="press press-plain">
              <Tag size={18} aria-hidden /> Label <span className="sr-only">of {pour.code}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What was read of a pot, or the way to read it. */
function Read({ id }: { id: string }) {
  const { data } = usePour(id, 'ml');
  if (!data) return null;
  const read = data.readings[0];
  return (
    <>
      {read && (
        <span className="flex items-center gap-2 text-sm">
          <span aria-hidden className="size-8" style={{ background: read.hex }} />
          <span className="first-letter:uppercase">Read: {read.words ?? read.hex}</span>
        </span>
      )}
      <ReadPot name={data.name ?? 'what was poured'} {...ofPour(data)} />
    </>
  );
}
