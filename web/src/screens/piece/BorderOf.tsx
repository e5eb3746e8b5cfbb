import type { PieceChoices, Stencil, ZoneView } from '../../api/client';
import { MeasureField } from '../../common/MeasureField';
import { Checkbox } from '../../parts/Checkbox';
import { Named } from '../../parts/Named';
import { Picker } from '../../parts/Picker';

interface Props {
  zone: ZoneView;
  stencil: Stencil;
  choices: PieceChoices;
  onChange: (stencil: Stencil) => void;
}

const FREE = { id: 'free', name: 'Left free' };
/** What turns the corners of a new border. */
const CORNER = 'corner';

/** In a row along the middle of each part, or as a border along its four sides: how far from the edge, and what turns the corner. */
export function BorderOf({ zone, stencil, choices, onChange }: Props) {
  const { around } = stencil;
  const { border, inset } = zone.pattern_room;
  // A pattern in a row may be too large to go round.
  const turn = (on: boolean) =>
    onChange(
      on
        ? {
            ...stencil,
            size: Math.min(stencil.size, border || stencil.size),
            around: { inset, corner: CORNER },
          }
        : { ...stencil, around: null },
    );
  return (
    <div className="grid gap-2">
      <Checkbox checked={around != null} onChange={turn}>
        Border round each part
      </Checkbox>
      {around && (
        <>
          <MeasureField
            label="From the edge of the part"
            measured="length"
            said={zone.stencil?.inset ?? ''}
            error={undefined}
            onChange={(inset) => onChange({ ...stencil, around: { ...around, inset } })}
          />
          <Named name="In the corners">
            <Picker
              label="In the corners"
              className="w-full min-w-0 *:truncate"
              choices={[FREE, ...choices.motifs]}
              value={around.corner ?? FREE.id}
              onChange={(id) =>
                onChange({ ...stencil, around: { ...around, corner: id === FREE.id ? null : id } })
              }
            />
          </Named>
        </>
      )}
    </div>
  );
}
