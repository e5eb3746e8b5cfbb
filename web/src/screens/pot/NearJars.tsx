import { ChevronRight } from 'lucide-react';
import { Link } from 'react-router';
import type { JarNear, MixEntry, MixPart } from '../../api/client';
import { deltaE } from '../../parts/numbers';
import { useJarsNear } from '../../state/jars';

interface Props {
  entry: MixEntry;
  onChange: (entry: MixEntry) => void;
}

/** Jars near the target: what is already mixed is used up first. */
export function NearJars({ entry, onChange }: Props) {
  const jars = useJarsNear(entry.target).data ?? [];
  if (jars.length === 0) return null;
  return (
    <section aria-label="Jars near it" className="grid gap-1">
      <h2 className="text-sm font-semibold">In a jar already</h2>
      <ul className="grid gap-px">
        {jars.map((jar) => (
          <Row key={jar.id} jar={jar} onTake={(components) => onChange({ ...entry, components })} />
        ))}
      </ul>
    </section>
  );
}

function Row({ jar, onTake }: { jar: JarNear; onTake: (parts: MixPart[]) => void }) {
  return (
    <li className="grid grid-cols-[8rem_minmax(0,1fr)_auto] items-stretch gap-x-3 bg-panel max-md:grid-cols-[5rem_minmax(0,1fr)]">
      <span aria-hidden className="flex min-h-16">
        <span className="flex-1" style={{ background: jar.judgement.target.hex }} />
        <span className="flex-1" style={{ background: jar.hex }} />
      </span>
      <span className="py-2 leading-tight">
        <span className="block">
          <Link to={`/jars/${jar.id}`} className="font-semibold underline underline-offset-3">
            <bdi>{jar.name}</bdi>
          </Link>
          , {jar.left} left{jar.place && `, ${jar.place}`}
          {jar.client && `, kept for ${jar.client}`}
        </span>
        <span className="block text-sm first-letter:uppercase">
          {jar.judgement.words}, ΔE00 {deltaE(jar.judgement.difference)}
        </span>
        {jar.adding && (
          <span className="block text-sm">
            Add {jar.adding} to all of it: {jar.then}
          </span>
        )}
      </span>
      <button
        type="button"
        className="press press-bare self-center max-md:col-span-2 max-md:justify-self-end"
        onClick={() => onTake(jar.adding ? jar.then_parts : jar.parts)}
      >
        Use this jar <span className="sr-only">{jar.code}</span> <ChevronRight size={20} aria-hidden />
      </button>
    </li>
  );
}
