import { Slider } from 'radix-ui';

interface Props {
  label: string;
  /** What its value is called. */
  shown: string;
  value: number;
  from: number;
  to: number;
  step: number;
  /** While a hand is on it. */
  onShow: (value: number) => void;
  /** When it lets go. */
  onChange?: (value: number) => void;
  className?: string;
}

/** A number by hand: a thumb of 44 px on a line. */
export function Slide({ label, shown, value, from, to, step, onShow, onChange, className = '' }: Props) {
  return (
    <Slider.Root
      min={from}
      max={to}
      step={step}
      value={[value]}
      onValueChange={([next]) => next !== undefined && onShow(next)}
      onValueCommit={([next]) => next !== undefined && onChange?.(next)}
      className={`relative flex h-11 touch-none items-center ${className}`}
    >
      {/* As long as the way of the dot: the thumb is wider, for fingers. */}
      <Slider.Track className="mx-2.5 h-1 flex-1 cursor-pointer rounded-full bg-line">
        <Slider.Range className="absolute h-1 rounded-full bg-edge" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        aria-valuetext={shown}
        className="grid size-11 cursor-ew-resize place-items-center outline-offset-0"
      >
        <span className="size-6 rounded-full bg-ink shadow-[0_0_0_2px_var(--color-white)]" />
      </Slider.Thumb>
    </Slider.Root>
  );
}
