import { RadioGroup } from 'radix-ui';
import type { Paint, PourView } from '../../../api/client';

interface Props {
  pour: PourView;
  shelf: Paint[];
  chosen: string | undefined;
  onChoose: (paint: string) => void;
}

/** The paints of the pot, how far each is, and which goes in next. */
export function Into({ pour, shelf, chosen, onChoose }: Props) {
  // One that is not in the pot yet may be chosen in the tray.
  const extra = shelf.find(
    (one) => one.id === chosen && pour.paints.every((known) => known.paint !== one.id),
  );
  return (
    <RadioGroup.Root
      aria-label="Paint that goes in"
      value={chosen ?? ''}
      onValueChange={onChoose}
      className="grid gap-px"
    >
      {pour.paints.map((paint) => {
        const whole = Math.max(paint.planned_ml, paint.ml);
        return (
          <RadioGroup.Item
            key={paint.paint}
            value={paint.paint}
            className="group flex min-h-14 cursor-pointer items-stretch gap-3 bg-ground pr-3 text-left hover:bg-panel data-[state=checked]:bg-paper focus-visible:-outline-offset-3"
          >
            <span aria-hidden className="w-14 shrink-0" style={{ background: paint.hex }} />
            <span className="grid min-w-0 flex-1 content-center gap-1 py-1.5 leading-tight">
              <span className="flex items-baseline justify-between gap-3">
                <bdi className="truncate font-semibold group-data-[state=checked]:font-bold">
                  {paint.name}
                </bdi>
                <span className="shrink-0 text-sm">
                  <b>{paint.inside}</b>
                  {paint.left && ` · ${paint.left} to go`}
                  {!paint.left && paint.over && ` · ${paint.over} too much`}
                  {!paint.left && !paint.over && paint.ml > 0 && ' · done'}
                </span>
              </span>
              <span aria-hidden className="flex h-1.5 bg-line">
                <span className="bg-ink" style={{ width: `${whole > 0 ? (100 * paint.ml) / whole : 0}%` }} />
              </span>
            </span>
          </RadioGroup.Item>
        );
      })}
      {extra && (
        <RadioGroup.Item
          value={extra.id}
          className="flex min-h-14 cursor-pointer items-center gap-3 bg-paper pr-3 text-left focus-visible:-outline-offset-3"
        >
          <span
            aria-hidden
            className="h-14 w-14 shrink-0"
            style={{ background: extra.swatch?.face.hex ?? 'transparent' }}
          />
          <span className="min-w-0 flex-1">
            <bdi className="font-bold">{extra.entry.name}</bdi>
            <span className="block text-sm">not in the recipe</span>
          </span>
        </RadioGroup.Item>
      )}
    </RadioGroup.Root>
  );
}
