import { Printer } from 'lucide-react';
import { Link } from 'react-router';
import type { PieceChoices, Stencil, ZoneView } from '../../api/client';
import { MeasureField } from '../../common/MeasureField';
import { Checkbox } from '../../parts/Checkbox';
import { NumberField } from '../../parts/NumberField';
import { Picker } from '../../parts/Picker';
import { SlideRow } from '../../parts/SlideRow';
import { TroubleLine } from '../../parts/TroubleLine';
import { BorderOf } from './BorderOf';
import { FadeOf } from './FadeOf';
import { OwnOutline } from './OwnOutline';
import type { Choice } from './pots';
import { SoftenedOf } from './SoftenedOf';
import { Wisps } from './Wisps';

interface Props {
  zone: ZoneView;
  stencil: Stencil | null | undefined;
  choices: PieceChoices;
  pots: Choice[];
  /** The other parts. */
  others: ZoneView[];
  onShow: (stencil: Stencil) => void;
  onChange: (stencil: Stencil | null) => void;
}

/** The largest pattern that the slider gives on small parts, mm. */
const LARGEST = 400;
const NONE = { id: 'none', name: 'No pattern' };
const OWN = { id: 'own', name: 'Your own' };

/** A pattern through a stencil: which, how large, how often, in which colour. */
export function StencilOf({ zone, stencil, choices, pots, others, onShow, onChange }: Props) {
  const largest = Math.max(LARGEST, stencil?.size ?? 0);
  const choose = (motif: string) => {
    const pot = stencil?.pot ?? pots[0]?.pot;
    if (motif === NONE.id || !pot) onChange(null);
    else if (motif !== OWN.id) onChange({ size: 80, repeats: null, ...stencil, own: null, motif, pot });
  };
  const picker = (
    <Picker
      label="Pattern"
      className="w-full min-w-0 *:truncate"
      choices={[NONE, ...choices.motifs, ...(stencil?.own ? [{ ...OWN, name: stencil.own.name }] : [])]}
      value={stencil?.own ? OWN.id : (stencil?.motif ?? NONE.id)}
      onChange={choose}
    />
  );
  if (!stencil) return picker;
  return (
    <div className="grid gap-2">
      {picker}
      <OwnOutline
        own={stencil.own}
        room={zone.pattern_room}
        onChange={(own, size) =>
          onChange({ ...stencil, own, ...(size ? { repeats: 1, gap: null, around: null, size } : {}) })
        }
      />
      <Wisps
        stencil={stencil}
        pots={pots}
        others={others}
        most={choices.stencil_colours}
        petals={!stencil.own && choices.motifs.some(({ id, petals }) => petals && id === stencil.motif)}
        onChange={onChange}
      />
      <SlideRow
        name="Size"
        room="w-14"
        label="Size of the pattern"
        shown={zone.stencil?.size ?? ''}
        value={stencil.size}
        from={20}
        to={largest}
        step={5}
        onShow={(size) => onShow({ ...stencil, size })}
        onChange={(size) => onChange({ ...stencil, size })}
      />
      <NumberField
        key={stencil.repeats ?? 'even'}
        label="Repeats on each part"
        value={stencil.repeats ?? undefined}
        placeholder="automatic"
        error={undefined}
        onChange={(repeats) => onChange({ ...stencil, repeats: Math.max(1, Math.round(repeats)) })}
        onEmpty={() => onChange({ ...stencil, repeats: null })}
      />
      <MeasureField
        key={stencil.gap ?? 'even gap'}
        label="Gap between repeats"
        measured="length"
        said={zone.stencil?.gap ?? ''}
        placeholder="even"
        error={undefined}
        onChange={(gap) => onChange({ ...stencil, gap })}
        onEmpty={() => onChange({ ...stencil, gap: null })}
      />
      <Checkbox
        checked={stencil.mirrored ?? false}
        onChange={(mirrored) => onChange({ ...stencil, mirrored })}
      >
        Mirror every second repeat
      </Checkbox>
      <BorderOf zone={zone} stencil={stencil} choices={choices} onChange={onChange} />
      <Checkbox checked={stencil.by_hand ?? false} onChange={(by_hand) => onChange({ ...stencil, by_hand })}>
        Painted by hand, without a stencil
      </Checkbox>
      {zone.stencil?.spread && (
        <p className="text-sm text-soft first-letter:uppercase">{zone.stencil.spread}</p>
      )}
      <FadeOf
        fade={stencil.fade}
        onShow={(fade) => onShow({ ...stencil, fade })}
        onChange={(fade) => onChange({ ...stencil, fade })}
      />
      <SoftenedOf
        softened={stencil.softened}
        onShow={(softened) => onShow({ ...stencil, softened })}
        onChange={(softened) => onChange({ ...stencil, softened })}
      />
      {zone.stencil && zone.stencil.marks.length > 0 && (
        <details className="text-sm">
          <summary className="min-h-11 cursor-pointer py-3 font-semibold">Where to mark centre lines</summary>
          <ul aria-label="Centre lines, measured from one end" className="grid gap-1">
            {zone.stencil.marks.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </details>
      )}
      {zone.stencil && (
        <Link to={`/piece/template?zone=${zone.zone}`} className="press press-plain w-fit text-sm">
          <Printer size={18} aria-hidden /> Template to print
        </Link>
      )}
      {zone.refused && <TroubleLine className="text-sm">{zone.refused}</TroubleLine>}
    </div>
  );
}
