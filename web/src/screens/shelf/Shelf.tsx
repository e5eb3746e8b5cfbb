import { Plus } from 'lucide-react';
import { useNavigate, useParams } from 'react-router';
import type { Paint } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { coats, plainNumber } from '../../parts/numbers';
import { Failed, Waiting } from '../../parts/Waiting';
import { usePaints } from '../../state/workspace';
import { NewPaint } from './NewPaint';
import { PaintPage } from './PaintPage';

/** What is on hand, as one wall of drawdowns; one of them opened beside it. */
export function Shelf() {
  const { id } = useParams();
  const go = useNavigate();
  const paints = usePaints();
  const open = paints.data?.find((paint) => paint.id === id);

  if (paints.isPending) return <Waiting rows={14} />;
  if (paints.isError && !paints.data) return <Failed error={paints.error} retry={() => paints.refetch()} />;
  return (
    <div className="flex h-full flex-col lg:flex-row">
      <section aria-label="Shelf" className={`flex min-w-0 flex-1 flex-col ${id ? 'max-lg:hidden' : ''}`}>
        <div className="flex items-center justify-between px-4 pb-2 pt-1 md:px-5">
          <h1 className="text-3xl">Shelf</h1>
          {paints.data.length > 0 && (
            <button type="button" className="press press-ink" onClick={() => go('/shelf/new')}>
              <Plus size={20} aria-hidden /> Add a paint
            </button>
          )}
        </div>
        {paints.data.length === 0 ? (
          <Empty onAdd={() => go('/shelf/new')} />
        ) : (
          <ul aria-label="Paints and mediums" className="min-h-0 flex-1 overflow-auto pb-4">
            {paints.data.map((paint) => (
              <Row
                key={paint.id}
                paint={paint}
                open={paint.id === id}
                onOpen={() => go(`/shelf/${paint.id}`)}
              />
            ))}
          </ul>
        )}
      </section>
      {id === 'new' && <NewPaint onClose={() => go('/shelf')} onMade={(paint) => go(`/shelf/${paint.id}`)} />}
      {open && <PaintPage key={open.id} paint={open} onClose={() => go('/shelf')} />}
    </div>
  );
}

function Row({ paint, open, onOpen }: { paint: Paint; open: boolean; onOpen: () => void }) {
  const { entry } = paint;
  const facts = [
    entry.coats_to_hide ? coats(entry.coats_to_hide) : undefined,
    typeof entry.stock_ml === 'number' ? `${plainNumber(entry.stock_ml)} ml left` : undefined,
  ];
  return (
    <li>
      <button
        type="button"
        onClick={onOpen}
        aria-current={open || undefined}
        className="group flex h-11 w-full items-stretch overflow-hidden text-left cursor-pointer hover:bg-panel aria-[current]:bg-ink aria-[current]:text-white focus-visible:-outline-offset-3"
      >
        <span className="flex w-34 shrink-0 flex-col justify-center pl-4 pr-2 leading-[1.15] md:w-50 md:pl-5">
          <bdi className="truncate font-semibold">{entry.name}</bdi>
          <span className="truncate text-sm text-soft group-aria-[current]:text-rail-soft">
            {paint.class_name}
          </span>
        </span>
        <Drawdown swatch={paint.swatch} className="min-w-0 flex-1" />
        <span className="hidden w-32 shrink-0 flex-col justify-center pl-4 text-sm leading-[1.15] sm:flex">
          {facts.map((fact) => fact && <span key={fact}>{fact}</span>)}
        </span>
      </button>
    </li>
  );
}

function Empty({ onAdd }: { onAdd: () => void }) {
  return (
    <div className="m-auto grid max-w-md justify-items-center gap-4 p-8 text-center">
      <div aria-hidden className="flex h-20 w-80 max-w-full flex-col">
        <div className="flex-1 bg-paper" />
        <div className="flex-1 bg-ink" />
      </div>
      <h2 className="text-2xl">Start with your white</h2>
      <p>
        Put the paints on your bench here, the white you mix with first: a name, the colour of its chip, and
        how many coats it needs to hide. Two of them are enough to mix.
      </p>
      <button type="button" className="press press-ink" onClick={onAdd}>
        <Plus size={20} aria-hidden /> Add a paint
      </button>
    </div>
  );
}
