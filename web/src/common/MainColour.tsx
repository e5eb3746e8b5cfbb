import { PaintPicker } from '../parts/PaintPicker';
import { usePaints } from '../state/workspace';

const ANY = 'any';

interface Props {
  label: string;
  /** The paint; null for one that suits the finish. */
  base: string | null | undefined;
  onChange: (base: string | null) => void;
}

/** The main colour of a ready finish, or whatever suits it. */
export function MainColour({ label, base, onChange }: Props) {
  const paints = (usePaints().data ?? []).filter((paint) => !paint.medium);
  return (
    <div className="grid gap-1 text-sm font-semibold">
      {label}
      <PaintPicker
        label={label}
        className="w-full"
        choices={[
          { id: ANY, name: 'What suits the finish' },
          ...paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch })),
        ]}
        value={base ?? ANY}
        onChange={(id) => onChange(id === ANY ? null : id)}
      />
    </div>
  );
}
