import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import {
  ArrowDown,
  ArrowUp,
  Copy,
  Eraser,
  Eye,
  EyeOff,
  Info,
  ShieldAlert,
  Trash2,
  TriangleAlert,
} from 'lucide-react';
import type {
  AdviceGiven,
  FixOffered,
  Layer,
  LayerPredicted,
  Mix,
  Paint,
  StripPrediction,
} from '../../api/client';
import { filmWords } from '../../parts/numbers';
import type { useBoardChoices } from '../../state/boards';
import type { LayerChange, Place } from './entry';
import { LayerEditor } from './LayerEditor';

interface Props {
  layer: Layer;
  predicted: LayerPredicted;
  advice: AdviceGiven[];
  cautions: StripPrediction['cautions'];
  /** The layers that lie under it, the next first. */
  below: LayerPredicted[];
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  shelf: Paint[];
  mixes: Mix[];
  open: boolean;
  onOpen: () => void;
  onShow: (change: Partial<Layer>) => void;
  onChange: (change: LayerChange) => void;
  onMove: (by: number) => void;
  onTwice: () => void;
  onRemove: () => void;
  onFix: (fix: FixOffered) => void;
}

/** `Film 12 µm, recess 30, edge 4; texture 140`: wet, where it lies at all, and how rough the surface is then. */
function filmOf({ print: { film, cover }, texture_um }: LayerPredicted) {
  const at = (place: Place) => (cover[place] > 0 ? filmWords(film[place]) : 'none');
  const rough = texture_um >= 5 ? `; texture ${Math.round(texture_um)}` : '';
  return `Film: flat ${at('field')} µm, recess ${at('recess')}, edge ${at('edge')}${rough}`;
}

/** A layer: what it is, what it moves, what is wrong with it; open, everything that can be changed. */
export function LayerRow(props: Props) {
  const { layer, predicted, advice, cautions, open, onOpen, onChange, onMove, onTwice, onRemove, onFix } =
    props;
  const name = predicted.technique;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id: layer.id,
    disabled: open,
  });
  const deeds = [
    { words: 'Up', icon: ArrowUp, act: () => onMove(1) },
    { words: 'Down', icon: ArrowDown, act: () => onMove(-1) },
    { words: 'Duplicate', icon: Copy, act: onTwice },
    {
      words: layer.muted ? 'Show' : 'Hide',
      icon: layer.muted ? Eye : EyeOff,
      act: () => onChange({ muted: !layer.muted }),
    },
    { words: 'Remove', icon: Trash2, act: onRemove },
  ];
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`bg-panel ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
      {...listeners}
    >
      <button
        type="button"
        aria-expanded={open}
        onClick={onOpen}
        onKeyDown={(event) => {
          const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
          if (!by || !event.altKey) return;
          event.preventDefault();
          onMove(by);
        }}
        className="grid w-full cursor-pointer grid-cols-[3.5rem_minmax(0,1fr)] items-stretch gap-3 text-left hover:bg-paper focus-visible:-outline-offset-3"
      >
        <span
          aria-hidden
          className={`grid min-h-13 place-items-center ${layer.muted ? 'opacity-30' : ''}`}
          style={{ background: predicted.hex ?? undefined }}
        >
          {!predicted.hex && <Eraser size={22} />}
        </span>
        <span className="min-w-0 py-1.5 leading-tight">
          <span className="flex items-baseline justify-between gap-2">
            <span className={layer.muted ? 'line-through' : 'font-semibold'}>{name}</span>
            <span className="pr-2 text-sm text-soft">
              {layer.muted ? 'hidden' : predicted.shared ? 'in other strips too' : ''}
              {layer.hand.passes > 1 && ` ×${layer.hand.passes}`}
            </span>
          </span>
          {predicted.pot && <span className="block truncate text-sm">{predicted.pot}</span>}
          {predicted.moves && <span className="block truncate text-sm text-soft">{predicted.moves}</span>}
          {predicted.hex && !layer.muted && (
            <span className="block truncate text-sm text-soft">{filmOf(predicted)}</span>
          )}
        </span>
      </button>
      {advice.map((one) => (
        <Advice key={one.what} advice={one} onFix={onFix} />
      ))}
      {cautions.map((caution) => (
        <div key={caution.words} className="flex items-start gap-2 px-3 py-1.5 text-sm">
          <ShieldAlert size={18} aria-hidden className="mt-0.5 shrink-0" />
          <p>
            <b className="font-semibold">Safety: </b>
            {caution.words} <span className="text-soft">({caution.source})</span>
          </p>
        </div>
      ))}
      {open && (
        <div className="grid gap-3 p-3">
          <div className="flex flex-wrap gap-1">
            {deeds.map(({ words, icon: Icon, act }) => (
              <button
                key={words}
                type="button"
                className="press press-bare flex-1 flex-col gap-0.5 px-1 text-sm"
                aria-label={`${words}: ${name}`}
                onClick={act}
              >
                <Icon size={20} aria-hidden />
                {words}
              </button>
            ))}
          </div>
          <LayerEditor {...props} />
        </div>
      )}
    </li>
  );
}

const HOW_BAD = { fails: 'Will fail: ', care: 'Risky: ', note: '' } as const;

const sentence = (words: string) => words && `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;

function Advice({ advice, onFix }: { advice: AdviceGiven; onFix: (fix: FixOffered) => void }) {
  const { what, why, remedy, source, severity, fix } = advice;
  const Icon = severity === 'note' ? Info : TriangleAlert;
  return (
    <div className="flex items-start gap-2 px-3 py-1.5 text-sm">
      <Icon size={18} aria-hidden className="mt-0.5 shrink-0" />
      <div className="grid gap-1">
        <p>
          <b className="font-semibold">
            {HOW_BAD[severity as keyof typeof HOW_BAD]}
            {what}.
          </b>{' '}
          {sentence(why)} {sentence(remedy)} <span className="text-soft">({source})</span>
        </p>
        {fix && (
          <button
            type="button"
            className="press press-ink justify-self-start text-sm"
            onClick={() => onFix(fix)}
          >
            {fix.words}
          </button>
        )}
      </div>
    </div>
  );
}
