import type { Stencil } from '../../api/client';
import { Named } from '../../parts/Named';
import { Picker } from '../../parts/Picker';
import { SlideRow } from '../../parts/SlideRow';

type Softened = NonNullable<Stencil['softened']>;

interface Props {
  softened: Softened | null | undefined;
  onShow: (softened: Softened) => void;
  onChange: (softened: Softened | null) => void;
}

const AS_IT_IS = 'as-it-is';
const WAYS = [
  { id: AS_IT_IS, name: 'Left as it is' },
  { id: 'wiped', name: 'Wiped back while wet' },
  { id: 'sanded', name: 'Sanded in once dry' },
];
const HALF = 0.5;

/** How a pattern is made fainter once it is on, and by how much. */
export function SoftenedOf({ softened, onShow, onChange }: Props) {
  return (
    <div className="grid gap-1">
      <Named name="Once it is on">
        <Picker
          label="Once it is on"
          className="w-full min-w-0 *:truncate"
          choices={WAYS}
          value={softened?.how ?? AS_IT_IS}
          onChange={(how) =>
            onChange(how === 'wiped' || how === 'sanded' ? { how, share: softened?.share ?? HALF } : null)
          }
        />
      </Named>
      {softened && (
        <SlideRow
          name="Taken off"
          room="w-14"
          label="How much of the pattern is taken off"
          shown={`${Math.round(100 * softened.share)} %`}
          value={Math.round(100 * softened.share)}
          from={5}
          to={95}
          step={5}
          onShow={(share) => onShow({ ...softened, share: share / 100 })}
          onChange={(share) => onChange({ ...softened, share: share / 100 })}
        />
      )}
    </div>
  );
}
