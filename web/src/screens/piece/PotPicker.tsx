import type { MixPart } from '../../api/client';
import { PaintPicker } from '../../parts/PaintPicker';
import { type Choice, pickedPot } from './pots';

interface Props {
  label: string;
  pots: Choice[];
  pot: MixPart[];
  onChange: (pot: MixPart[]) => void;
  className?: string;
}

/** Chooses what is in a pot: a paint, a named mix, or what another part is painted with. */
export function PotPicker({ label, pots, pot, onChange, className = 'w-full min-w-0' }: Props) {
  const picked = pickedPot(pots, pot);
  return (
    <PaintPicker
      label={label}
      className={className}
      choices={picked.choices}
      value={picked.id}
      onChange={(id) => {
        const chosen = pots.find((one) => one.id === id)?.pot;
        if (chosen) onChange(chosen);
      }}
    />
  );
}
