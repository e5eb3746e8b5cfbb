import { GripVertical } from 'lucide-react';
import { Slider } from 'radix-ui';
import type { ReactNode } from 'react';
import type { MixEntry, PredictedPart } from '../../api/client';
import { finer, joints, MOST_PARTS, simplest, totalParts, withJoints } from './entry';

interface Props {
  entry: MixEntry;
  parts: PredictedPart[];
  /** While a hand is on a joint. */
  onShow: (entry: MixEntry) => void;
  /** When it lets go. */
  onChange: (entry: MixEntry) => void;
  /** What else can be done with the ratio. */
  children?: ReactNode;
}

/** The pot as one bar: its joints drag and snap to whole parts, the total stays. */
export function ProportionBar({ entry, parts, onShow, onChange, children }: Props) {
  const { components } = entry;
  if (components.length < 2) return <div className="flex justify-end">{children}</div>;
  const total = totalParts(entry);
  const name = (paint: string | undefined) => parts.find((part) => part.paint === paint)?.name ?? '';
  const hex = (paint: string) => parts.find((part) => part.paint === paint)?.hex;
  const simple = simplest(entry);
  const most = Math.max(...components.map((part) => part.parts));

  return (
    <div className="grid gap-1">
      <div className="flex items-center justify-between gap-2">
        <p className="text-sm font-semibold">
          {components.map((part) => part.parts).join(' : ')}
          <span className="font-normal text-soft">, {total} parts</span>
        </p>
        <div className="flex flex-wrap justify-end gap-1">
          <button
            type="button"
            className="press press-bare text-sm"
            disabled={most * 2 > MOST_PARTS}
            onClick={() => onChange(finer(entry, 2))}
          >
            Double the parts
          </button>
          <button
            type="button"
            className="press press-bare text-sm"
            disabled={simple === entry}
            onClick={() => onChange(simple)}
          >
            Simplify
          </button>
          {children}
        </div>
      </div>
      <Slider.Root
        min={0}
        max={total}
        step={1}
        minStepsBetweenThumbs={1}
        value={joints(entry)}
        onValueChange={(at) => onShow(withJoints(entry, at))}
        onValueCommit={(at) => onChange(withJoints(entry, at))}
        className="relative flex h-16 touch-none items-center"
      >
        <Slider.Track className="flex h-full w-full cursor-pointer overflow-hidden">
          {components.map((part) => (
            <span
              key={part.paint}
              className="h-full"
              style={{ flexGrow: part.parts, background: hex(part.paint) }}
            />
          ))}
        </Slider.Track>
        {components.slice(0, -1).map((part, i) => {
          const after = components[i + 1];
          return (
            <Slider.Thumb
              key={part.paint}
              aria-label={`Divider between ${name(part.paint)} and ${name(after?.paint)}: arrow keys move one part`}
              aria-valuetext={`${part.parts} parts ${name(part.paint)}, ${after?.parts} parts ${name(after?.paint)}`}
              className="group block h-16 w-0 outline-none"
            >
              {/* The thumb itself has no width, so that it stands on the joint; what a finger finds is 44 px wide. */}
              <span className="-ml-5.5 grid h-16 w-11 cursor-ew-resize place-items-center">
                <span className="grid h-13 w-5 place-items-center rounded-xs bg-ink text-white shadow-[0_0_0_2px_var(--color-white)] group-focus-visible:outline-3 group-focus-visible:outline-offset-3 group-focus-visible:outline-ink">
                  <GripVertical size={16} aria-hidden />
                </span>
              </span>
            </Slider.Thumb>
          );
        })}
      </Slider.Root>
    </div>
  );
}
