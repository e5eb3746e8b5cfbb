import { Plus, X } from 'lucide-react';
import type { Finish } from '../../api/client';
import { PaintPicker } from '../../parts/PaintPicker';
import { Segments } from '../../parts/Segments';
import { type Choice, pickedPot } from './pots';

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
  const fill = (n: number, id: string) => {
    const pot = pots.find((one) => one.id === id)?.pot;
    if (pot) onChange({ ...blend, bands: blend.bands.map((band, i) => (i === n ? { ...band, pot } : band)) });
  };
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
      {blend.bands.map((band, n) => {
        const picked = pickedPot(pots, band.pot);
        return (
          <div key={String(n)} className="flex gap-1">
            <PaintPicker
              label={`Colour ${String(n + 1)}`}
              className="min-w-0 flex-1"
              choices={picked.choices}
              value={picked.id}
              onChange={(next) => fill(n, next)}
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
        );
      })}
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
