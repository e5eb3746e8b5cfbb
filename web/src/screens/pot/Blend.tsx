import { Check, TriangleAlert, X } from 'lucide-react';
import { useState } from 'react';
import type { BlendPath, Blend as Lies, Mix, MixEntry, MixPart, Paint, Swatch } from '../../api/client';
import { Term } from '../../common/Term';
import { keyed } from '../../parts/keyed';
import { share } from '../../parts/numbers';
import { PaintPicker } from '../../parts/PaintPicker';
import { useBlend } from '../../state/bench';

const MOST = 4;

interface Props {
  entry: MixEntry;
  shelf: Paint[];
  mixes: Mix[];
  /** Flat colour of what is in the pot. */
  hex: string | undefined;
}

/** The way from what is in the pot to other colours: how it runs, where it goes grey, which brushes must not meet. */
export function Blend({ entry, shelf, mixes, hex }: Props) {
  // Something to begin with, which gives way to what is chosen: the white, or the first paint that is not in the pot.
  const outside = shelf.filter(
    (paint) => !paint.medium && !entry.components.some((part) => part.paint === paint.id),
  );
  const likeliest = outside.find((paint) => paint.house_white) ?? outside[0];
  const [picked, setOthers] = useState<string[]>();
  const others = picked ?? (likeliest ? [likeliest.id] : []);
  const ends = [...shelf.filter((paint) => !paint.medium).map(ofPaint), ...mixes.flatMap(ofMix)];
  const chosen = others.flatMap((id) => ends.filter((end) => end.id === id));
  const blend = useBlend([
    ...(entry.components.length > 0 ? [entry.components] : []),
    ...chosen.map((end) => end.components),
  ]);
  if (entry.components.length === 0)
    return <p className="text-soft">Add a paint first. The blend starts from the mix in the pot.</p>;
  const names = [entry.name ?? 'what is in the pot', ...chosen.map((end) => end.name)];
  const colours = [hex, ...chosen.map((end) => end.hex)];
  const free = ends.filter((end) => !others.includes(end.id));
  return (
    <div className="grid content-start gap-4">
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-sm font-semibold">From {names[0]} to</span>
        {chosen.map((end) => (
          <button
            key={end.id}
            type="button"
            className="press press-plain"
            onClick={() => setOthers(others.filter((id) => id !== end.id))}
          >
            <span aria-hidden className="size-6" style={{ background: end.hex }} />
            {end.name} <X size={16} aria-hidden />
            <span className="sr-only">(remove it from the blend)</span>
          </button>
        ))}
        {others.length < MOST && (
          <PaintPicker
            label="Blend into"
            placeholder={picked?.length ? 'then…' : 'Choose a colour'}
            choices={free}
            value=""
            onChange={(id) => setOthers([...(picked ?? []), id])}
          />
        )}
      </div>
      {chosen.length > 0 &&
        blend.data?.paths.map((path, i) => (
          <Way
            key={`${names[i]} ${names[i + 1]}`}
            path={path}
            from={names[i] ?? ''}
            to={names[i + 1] ?? ''}
            onBridge={(id) => setOthers([...others.slice(0, i), id, ...others.slice(i)])}
            full={others.length >= MOST}
          />
        ))}
      {chosen.length > 0 && blend.data && (
        <Brushes pairs={blend.data.pairs} names={names} colours={colours} />
      )}
    </div>
  );
}

/** What a blend may run to. */
interface End {
  id: string;
  name: string;
  hex: string | undefined;
  swatch: Swatch | null | undefined;
  components: MixPart[];
}

const ofPaint = (paint: Paint): End => ({
  id: paint.id,
  name: paint.entry.name,
  hex: paint.swatch.face.hex,
  swatch: paint.swatch,
  components: [{ paint: paint.id, parts: 1 }],
});

const ofMix = ({ id, entry, prediction }: Mix): End[] =>
  entry.name && entry.components.length > 0
    ? [
        {
          id,
          name: entry.name,
          hex: prediction.swatch?.face.hex,
          swatch: prediction.swatch,
          components: entry.components,
        },
      ]
    : [];

interface WayProps {
  path: BlendPath;
  from: string;
  to: string;
  onBridge: (paint: string) => void;
  full: boolean;
}

function Way({ path, from, to, onBridge, full }: WayProps) {
  const [one, other] = path.half_way_parts;
  const { bridge } = path;
  return (
    <section aria-label={`From ${from} to ${to}`} className="grid gap-1">
      <div className="relative">
        <div role="img" aria-label={`The blend ${path.words}`} className="flex h-20">
          {keyed(path.colours, (hex) => hex).map(({ key, item: hex }) => (
            <span key={key} className="flex-1" style={{ background: hex }} />
          ))}
        </div>
        <div aria-hidden className="relative h-6 text-xs">
          <Mark at={path.half_way}>half-way</Mark>
          {path.mud_at != null && <Mark at={path.mud_at}>grey</Mark>}
        </div>
      </div>
      <p className="font-display text-xl font-semibold first-letter:uppercase">{path.words}</p>
      <p className="text-sm text-soft">
        {path.mud_at != null && (
          <>
            It goes through <Term id="mud">mud</Term>.{' '}
          </>
        )}
        Halfway: {one} {from} : {other} {to} ({share(path.half_way)} {to}).
        {path.overpowers != null && (
          <b className="text-ink">
            {' '}
            <span className="inline-block first-letter:uppercase">{path.overpowers === 0 ? from : to}</span>{' '}
            overpowers: add it last, a little at a time.
          </b>
        )}
      </p>
      {bridge && (
        <p className="flex flex-wrap items-center gap-2 text-sm">
          <span aria-hidden className="size-6" style={{ background: bridge.hex }} />
          {bridge.name} bridges them better.
          <button
            type="button"
            className="press press-plain text-sm"
            disabled={full}
            onClick={() => onBridge(bridge.paint)}
          >
            Add {bridge.name} between
          </button>
        </p>
      )}
    </section>
  );
}

function Mark({ at, children }: { at: number; children: string }) {
  return (
    <span
      className="absolute top-0 -translate-x-1/2 border-t-2 border-ink px-1 whitespace-nowrap"
      style={{ left: `${Math.min(96, Math.max(4, at * 100))}%` }}
    >
      {children}
    </span>
  );
}

interface BrushesProps {
  pairs: Lies['pairs'];
  names: string[];
  colours: (string | undefined)[];
}

/** What one brush would make of any two of them. */
function Brushes({ pairs, names, colours }: BrushesProps) {
  return (
    <section aria-label="On the same brush" className="grid gap-1">
      <h2 className="text-lg">On the same brush</h2>
      <ul className="grid gap-px">
        {pairs.map(({ of: [one = 0, other = 0], hex, apart, words }) => (
          <li key={`${one} ${other}`} className="grid grid-cols-[9rem_minmax(0,1fr)] items-center gap-3">
            <span aria-hidden className="flex h-11">
              <span className="flex-1" style={{ background: colours[one] }} />
              <span className="flex-1" style={{ background: hex }} />
              <span className="flex-1" style={{ background: colours[other] }} />
            </span>
            <span className="flex items-center gap-2">
              {apart ? <TriangleAlert size={17} aria-hidden /> : <Check size={17} aria-hidden />}
              <span>
                {names[one]} and {names[other]}: <b>{words}</b>
                {apart && '. Use a brush for each.'}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
