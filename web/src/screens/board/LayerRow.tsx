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
import type { useBoardChoices } from '../../state/boards';
import type { LayerChange } from './entry';
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

/** A layer: what it is, what it moves, what is wrong with it; open, everything that can be changed. */
export function LayerRow(props: Props) {
  const { layer, predicted, advice, cautions, open, onOpen, onChange, onMove, onTwice, onRemove, onFix } =
    props;
  const name = predicted.technique;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id: layer.id,
    disabled: open,
  });
  const actions = [
    { words: 'Up', icon: ArrowUp, act: () => onMove(1) },
    { words: 'Down', icon: ArrowDown, act: () => onMove(-1) },
    { words: 'Duplicate', icon: Copy, act: onTwice },
    { words: 'Remove', icon: Trash2, act: onRemove },
  ];
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`bg-panel ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
      {...listeners}
    >
      <div className="flex items-stretch">
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
          className={`grid min-w-0 flex-1 cursor-pointer grid-cols-[2.75rem_minmax(0,1fr)] items-stretch gap-3 text-left hover:bg-paper focus-visible:-outline-offset-3 ${open ? 'outline-2 -outline-offset-2 outline-ink' : ''}`}
        >
          <span
            aria-hidden
            className={`grid min-h-13 place-items-center ${layer.muted ? 'opacity-30' : ''}`}
            style={{ background: predicted.hex ?? undefined }}
          >
            {!predicted.hex && <Eraser size={22} />}
          </span>
          <span className="grid min-w-0 content-center py-1.5 leading-tight">
            <span className="block truncate">
              <span className={layer.muted ? 'line-through' : 'font-semibold'}>
                {name}
                {layer.hand.passes > 1 && ` ×${layer.hand.passes}`}
              </span>
              {predicted.pot && `, ${predicted.pot}`}
            </span>
            <span className="block truncate text-sm text-soft">
              {layer.muted ? 'hidden' : predicted.moves || (predicted.shared ? 'in other strips too' : '')}
            </span>
          </span>
        </button>
        <button
          type="button"
          className="press press-bare px-0 text-soft"
          aria-label={`${layer.muted ? 'Show' : 'Hide'}: ${name}`}
          onClick={() => onChange({ muted: !layer.muted })}
        >
          {layer.muted ? <EyeOff size={20} aria-hidden /> : <Eye size={20} aria-hidden />}
        </button>
      </div>
      {advice.map((one) => (
        <Advice key={one.what} advice={one} onFix={onFix} />
      ))}
      <Safety cautions={cautions} />
      {open && (
        <div className="grid gap-3 p-3">
          <div className="flex flex-wrap gap-1">
            {actions.map(({ words, icon: Icon, act }) => (
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

const capital = (words: string) => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
const sentence = (words: string) => words && `${capital(words)}.`;

/** One line: what is wrong, and the fix; why and where that is from behind it. */
function Advice({ advice, onFix }: { advice: AdviceGiven; onFix: (fix: FixOffered) => void }) {
  const { what, why, remedy, source, severity, fix } = advice;
  const Icon = severity === 'note' ? Info : TriangleAlert;
  return (
    <div className="grid px-3 text-sm">
      <details>
        <summary className="flex min-h-11 cursor-pointer items-center gap-2">
          <Icon size={18} aria-hidden className="shrink-0" />
          <span>
            <b className="font-semibold">{capital(HOW_BAD[severity as keyof typeof HOW_BAD] + what)}.</b>{' '}
            <span className="underline underline-offset-3">Why?</span>
          </span>
        </summary>
        <p className="pb-2 pl-6.5">
          {sentence(why)} {sentence(remedy)} <span className="text-soft">({source})</span>
        </p>
      </details>
      {fix && (
        <button
          type="button"
          className="press press-plain mb-2 ml-6.5 justify-self-start text-sm"
          onClick={() => onFix(fix)}
        >
          {fix.words}
        </button>
      )}
    </div>
  );
}

/** What harms people at this layer: one line, the full words and where they are from behind it. What is grave stands in full. */
function Safety({ cautions }: { cautions: StripPrediction['cautions'] }) {
  const [grave, others] = [true, false].map((full) => cautions.filter((caution) => caution.grave === full));
  return (
    <>
      {grave?.map(({ words, source }) => (
        <p key={words} className="flex items-start gap-2 px-3 py-1.5 text-sm">
          <ShieldAlert size={18} aria-hidden className="mt-0.5 shrink-0" />
          <span>
            <b className="font-semibold">Safety: </b>
            {words} <span className="text-soft">({source})</span>
          </span>
        </p>
      ))}
      {others && others.length > 0 && (
        <details className="px-3 text-sm">
          <summary className="flex min-h-11 cursor-pointer items-center gap-2">
            <ShieldAlert size={18} aria-hidden className="shrink-0" />
            <span className="underline underline-offset-3">
              Safety: {others.map(({ short }) => short.split(':')[0]).join(', ')}
            </span>
          </summary>
          {others.map(({ words, source }) => (
            <p key={words} className="pb-2 pl-6.5">
              {words} <span className="text-soft">({source})</span>
            </p>
          ))}
        </details>
      )}
    </>
  );
}
