import { Plus, X } from 'lucide-react';
import type { Finish } from '../../api/client';
import { Segments } from '../../parts/Segments';
import { PotPicker } from './PotPicker';
import type { Choice } from './pots';

type Blend = Extract<Finish, { blend: unknown }>['blend'];

interface Props {
  blend: Blend;
  pots: Choice[];
  onChange: (blend: Blend) => void;
}

const WAYS = [
  { id: 'down', name: 'Down' },
  { id: 'across', name: 'Across' },
  { id: 'outward', name: 'Outward' },
];

/** Bands at even places. */
const spread = (bands: Blend['bands']) =>
  bands.map((band, n) => ({ ...band, at: bands.length > 1 ? n / (bands.length - 1) : 0 }));

/** Two to five colours that go over into each other. */
export function BlendOf({ blend, pots, onChange }: Props) {
  const fill = (n: number, pot: Blend['bands'][number]['pot']) =>
    onChange({ ...blend, bands: blend.bands.map((band, i) => (i === n ? { ...band, pot } : band)) });
  const last = blend.bands[blend.bands.length - 1];
  return (
    <div className="grid gap-2">
      <Segments
        label="Which way"
        choices={WAYS}
        value={blend.way}
        onChange={(way) => onChange({ ...blend, way })}
        className="inline-flex"
      />
      {blend.bands.map((band, n) => (
        <div key={String(n)} className="flex gap-1">
          <PotPicker
            label={`Colour ${String(n + 1)}`}
            className="min-w-0 flex-1"
            pots={pots}
            pot={band.pot}
            onChange={(pot) => fill(n, pot)}
          />
          <button
            type="button"
            className="press press-bare px-0"
            aria-label={`Remove colour ${String(n + 1)}`}
            disabled={blend.bands.length <= 2}
            onClick={() => onChange({ ...blend, bands: spread(blend.bands.filter((_, i) => i !== n)) })}
          >
            <X size={18} aria-hidden />
          </button>
        </div>
      ))}
      {blend.bands.length < 5 && last && (
        <button
          type="button"
          className="press press-bare justify-self-start text-sm"
          onClick={() => onChange({ ...blend, bands: spread([...blend.bands, last]) })}
        >
          <Plus size={18} aria-hidden /> Another colour
        </button>
      )}
    </div>
  );
}
