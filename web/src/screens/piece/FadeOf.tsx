import type { Stencil } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { SlideRow } from '../../parts/SlideRow';

type Fade = NonNullable<Stencil['fade']>;
/** With every value. */
type Faded = Fade & { patchy: number };

interface Props {
  fade: Fade | null | undefined;
  onShow: (fade: Fade | null) => void;
  onChange: (fade: Fade | null) => void;
}

const NONE: Faded = { weakest: 1, along: 0.5, across: null, patchy: 0 };

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** Strong in one place, lost in another: where a pattern is strongest, how far it fades, how patchy the hand leaves it. */
export function FadeOf({ fade, onShow, onChange }: Props) {
  const now: Faded = { ...NONE, ...fade };
  const even = (next: Fade) => next.weakest === 1 && next.patchy === 0;
  const either = (set: (fade: Fade | null) => void) => (next: Fade) => set(even(next) ? null : next);
  const [show, change] = [either(onShow), either(onChange)];
  const row = (name: string, label: string, value: number, of: (share: number) => Partial<Fade>) => (
    <SlideRow
      name={name}
      room="w-14"
      label={label}
      shown={percent(value)}
      value={Math.round(100 * value)}
      from={0}
      to={100}
      step={5}
      onShow={(share) => show({ ...now, ...of(share / 100) })}
      onChange={(share) => change({ ...now, ...of(share / 100) })}
    />
  );
  return (
    <div className="grid">
      {row('Fade', 'How far the pattern fades', 1 - now.weakest, (share) => ({ weakest: 1 - share }))}
      {now.weakest < 1 && (
        <>
          {row('Strong at', 'Where along it is strongest', now.along, (along) => ({ along }))}
          <Checkbox
            className="text-sm font-semibold"
            checked={now.across != null}
            onChange={(on) => change({ ...now, across: on ? 0.5 : null })}
          >
            Fades across too
          </Checkbox>
          {now.across != null &&
            row('Across', 'Where across it is strongest', now.across, (across) => ({ across }))}
        </>
      )}
      {row('Patchy', 'How patchy the pattern is', now.patchy, (patchy) => ({ patchy }))}
    </div>
  );
}
