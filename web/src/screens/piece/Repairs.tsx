import type { Piece, PieceChoices } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';

interface Props {
  entry: Piece;
  zone: string;
  choices: PieceChoices;
  onChange: (entry: Piece) => void;
}

/** What must be mended on a part before it is painted; the run sheet plans it. */
export function Repairs({ entry, zone, choices, onChange }: Props) {
  const possible = choices.repairs.filter(({ zones }) => zones.includes(zone));
  const repairs = entry.repairs ?? {};
  const own: string[] = repairs[zone] ?? [];
  const change = (id: string, on: boolean) => {
    const { [zone]: _, ...others } = repairs;
    const next = (on ? [...own, id] : own.filter((one) => one !== id)) as NonNullable<
      (typeof repairs)[string]
    >;
    onChange({ ...entry, repairs: next.length > 0 ? { ...others, [zone]: next } : others });
  };
  return (
    <fieldset className="grid">
      <legend className="pt-3 text-sm font-semibold">Before painting</legend>
      {possible.map(({ id, name }) => (
        <Checkbox key={id} checked={own.includes(id)} onChange={(on) => change(id, on)}>
          {name}
        </Checkbox>
      ))}
    </fieldset>
  );
}
