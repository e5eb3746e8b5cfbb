import {
  type Announcements,
  closestCenter,
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Plus } from 'lucide-react';
import type { Board, FixOffered, Layer, Mix, Paint, StripPrediction } from '../../api/client';
import type { useBoardChoices } from '../../state/boards';
import type { Change } from '../../state/useDraft';
import { changed, moved, movedTo, newLayer, onTop, twice, without } from './entry';
import { LayerRow } from './LayerRow';

interface Props {
  entry: Board;
  letter: string;
  strip: StripPrediction | undefined;
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  shelf: Paint[];
  mixes: Mix[];
  onShow: (entry: Board) => void;
  onChange: (entry: Change<Board>) => void;
  onFix: (fix: FixOffered) => void;
  /** The layer that is opened. */
  open: string | undefined;
  onOpen: (layer: string | undefined) => void;
}

/** The layers of a strip as they lie: the topmost first, the ground last. */
export function Layers({
  entry,
  letter,
  strip,
  choices,
  shelf,
  mixes,
  onShow,
  onChange,
  onFix,
  open,
  onOpen,
}: Props) {
  const own = new Map<string, Layer>();
  for (const { layers } of entry.strips) for (const layer of layers) own.set(layer.id, layer);
  const shown = (strip?.layers ?? []).filter((layer) => own.has(layer.id)).toReversed();

  // A tap opens a layer and a finger scrolls: it is carried once it is held for a moment.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 8 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  );

  const named = ({ id }: { id: string | number }) => shown.find((one) => one.id === id)?.technique ?? '';
  const place = ({ id }: { id: string | number }) =>
    `place ${shown.findIndex((one) => one.id === id) + 1} of ${shown.length}`;
  const told: Announcements = {
    onDragStart: ({ active }) => `${named(active)} lifted`,
    onDragOver: ({ active, over }) => (over ? `${named(active)} over ${place(over)}` : undefined),
    onDragEnd: ({ active, over }) => `${named(active)} put down${over ? ` in ${place(over)}` : ''}`,
    onDragCancel: ({ active }) => `${named(active)} is where it was`,
  };

  const add = () => {
    const fullest = shelf.filter((paint) => !paint.medium)[0];
    if (!fullest) return;
    const layer = newLayer('dry-brush', [{ paint: fullest.id, parts: 1 }]);
    onChange(onTop(entry, letter, layer));
    onOpen(layer.id);
  };

  return (
    <>
      <button
        type="button"
        className="press press-plain"
        onClick={add}
        disabled={shelf.every((paint) => paint.medium)}
      >
        <Plus size={18} aria-hidden /> A layer on top
      </button>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={{ announcements: told }}
        onDragEnd={({ active, over }) =>
          over && over.id !== active.id && onChange(movedTo(entry, String(active.id), String(over.id)))
        }
      >
        <SortableContext items={shown.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ol aria-label="Layers, the topmost first" className="grid gap-px">
            {shown.map((predicted, i) => {
              const layer = own.get(predicted.id);
              if (!layer) return null;
              return (
                <LayerRow
                  key={predicted.id}
                  layer={layer}
                  predicted={predicted}
                  advice={strip?.advice.filter((advice) => advice.layer === predicted.id) ?? []}
                  cautions={strip?.cautions.filter((caution) => caution.layer === predicted.id) ?? []}
                  below={shown.slice(i + 1)}
                  choices={choices}
                  shelf={shelf}
                  mixes={mixes}
                  open={open === predicted.id}
                  onOpen={() => onOpen(open === predicted.id ? undefined : predicted.id)}
                  onShow={(change) => onShow(changed(entry, predicted.id, change))}
                  onChange={(change) => onChange((now) => changed(now, predicted.id, change))}
                  onMove={(by) => onChange(moved(entry, predicted.id, by))}
                  onTwice={() => onChange(twice(entry, predicted.id))}
                  onRemove={() => onChange(without(entry, predicted.id))}
                  onFix={onFix}
                />
              );
            })}
          </ol>
        </SortableContext>
      </DndContext>
    </>
  );
}
