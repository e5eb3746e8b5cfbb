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
import { Plus, Trash2 } from 'lucide-react';
import type { Board, FixOffered, Mix, Paint, StripPrediction } from '../../api/client';
import type { useBoardChoices } from '../../state/boards';
import type { Change } from '../../state/useDraft';
import { changed, layersOf, moved, movedTo, newLayer, onTop, twice, without } from './entry';
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

/** The layers of a strip as they lie, from the top down to the ground. */
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
  // The board as it is put together, whether or not it could be predicted yet.
  const shown = layersOf(entry, letter).toReversed();
  const predicted = new Map(strip?.layers.map((layer) => [layer.id, layer]));
  const nameOf = (technique: string) =>
    choices.techniques.find(({ id }) => id === technique)?.name ?? technique;

  // A tap opens a layer and a finger scrolls: it is carried once it is held for a moment.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 8 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  );

  const named = ({ id }: { id: string | number }) =>
    nameOf(shown.find((one) => one.id === id)?.technique ?? '');
  const place = ({ id }: { id: string | number }) =>
    `position ${shown.findIndex((one) => one.id === id) + 1} of ${shown.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Picked up ${named(active)}`,
    onDragOver: ({ active, over }) => (over ? `${named(active)} over ${place(over)}` : undefined),
    onDragEnd: ({ active, over }) => `Dropped ${named(active)}${over ? ` at ${place(over)}` : ''}`,
    onDragCancel: ({ active }) => `${named(active)} put back`,
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
        <Plus size={18} aria-hidden /> Add layer
      </button>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        accessibility={{ announcements }}
        onDragEnd={({ active, over }) =>
          over && over.id !== active.id && onChange(movedTo(entry, String(active.id), String(over.id)))
        }
      >
        <SortableContext items={shown.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ol aria-label="Layers, from the top down" className="grid gap-px">
            {shown.map((layer, i) => {
              const seen = predicted.get(layer.id);
              if (!seen)
                return (
                  <Unpredicted
                    key={layer.id}
                    name={nameOf(layer.technique)}
                    onRemove={() => onChange(without(entry, layer.id))}
                  />
                );
              return (
                <LayerRow
                  key={layer.id}
                  layer={layer}
                  predicted={seen}
                  advice={strip?.advice.filter((advice) => advice.layer === layer.id) ?? []}
                  cautions={strip?.cautions.filter((caution) => caution.layer === layer.id) ?? []}
                  below={shown.slice(i + 1).flatMap(({ id }) => predicted.get(id) ?? [])}
                  choices={choices}
                  shelf={shelf}
                  mixes={mixes}
                  open={open === layer.id}
                  onOpen={() => onOpen(open === layer.id ? undefined : layer.id)}
                  onShow={(change) => onShow(changed(entry, layer.id, change))}
                  onChange={(change) => onChange((now) => changed(now, layer.id, change))}
                  onMove={(by) => onChange(moved(entry, layer.id, by))}
                  onTwice={() => onChange(twice(entry, layer.id))}
                  onRemove={() => onChange(without(entry, layer.id))}
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

/** A layer of which nothing is predicted yet: it is there all the same. */
function Unpredicted({ name, onRemove }: { name: string; onRemove: () => void }) {
  return (
    <li className="flex min-h-14 items-center gap-2 bg-panel pl-3">
      <p className="flex-1 font-semibold">
        {name} <span className="font-normal text-soft">not predicted yet</span>
      </p>
      <button
        type="button"
        className="press press-bare px-3"
        aria-label={`Take off: ${name}`}
        onClick={onRemove}
      >
        <Trash2 size={20} aria-hidden />
      </button>
    </li>
  );
}
