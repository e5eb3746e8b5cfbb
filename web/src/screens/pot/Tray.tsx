import { Check, Plus } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { memo } from 'react';
import { Link, useParams } from 'react-router';
import type { Mix, Paint } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { MOST_PAINTS } from './entry';

interface Props {
  shelf: Paint[];
  mixes: Mix[];
  /** The paints that are in the pot. */
  inPot: string[];
  /** Puts a paint in, or takes it out again. */
  onPick: (paint: string) => void;
}

/** What can be reached from the bench: the tins of the shelf, and the mixes made before. */
export const Tray = memo(({ shelf, mixes, inPot, onPick }: Props) => {
  const { id } = useParams();
  return (
    <Tabs.Root defaultValue="paints" className="flex shrink-0 flex-col lg:w-68">
      <Tabs.List aria-label="Take from" className="flex gap-1 px-3 md:px-4">
        {[
          { value: 'paints', name: 'Paints' },
          { value: 'mixes', name: `Mixes ${mixes.length}` },
        ].map((tab) => (
          <Tabs.Trigger
            key={tab.value}
            value={tab.value}
            className="press press-bare flex-1 border-b-3 border-transparent rounded-none text-soft data-[state=active]:border-ink data-[state=active]:text-ink"
          >
            {tab.name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content
        value="paints"
        className="min-h-0 flex-1 lg:overflow-auto focus-visible:-outline-offset-3"
      >
        <ul aria-label="Paints: tap to add or take out" data-mark="paints">
          {shelf.map((paint) => {
            const inside = inPot.includes(paint.id);
            return (
              <li key={paint.id}>
                <button
                  type="button"
                  aria-pressed={inside}
                  disabled={!inside && inPot.length >= MOST_PAINTS}
                  onClick={() => onPick(paint.id)}
                  className="flex h-11 w-full items-center gap-3 pr-3 text-left cursor-pointer hover:bg-panel disabled:cursor-default disabled:text-soft focus-visible:-outline-offset-3"
                >
                  <Drawdown swatch={paint.swatch} className="h-11 w-24 shrink-0" />
                  <bdi className={`min-w-0 flex-1 truncate ${inside ? 'font-bold' : ''}`}>
                    {paint.entry.name}
                  </bdi>
                  {inside ? (
                    <Check size={18} aria-hidden />
                  ) : (
                    <Plus size={18} aria-hidden className="text-edge" />
                  )}
                </button>
              </li>
            );
          })}
        </ul>
      </Tabs.Content>
      <Tabs.Content value="mixes" className="min-h-0 flex-1 lg:overflow-auto focus-visible:-outline-offset-3">
        <Link to="/pot" className="press press-bare w-full justify-start gap-3 rounded-none px-4">
          <Plus size={18} aria-hidden /> New mix
        </Link>
        <ul aria-label="Mixes made before">
          {mixes.toReversed().map((mix) => (
            <li key={mix.id}>
              <Link
                to={`/pot/${mix.id}`}
                aria-current={mix.id === id ? 'page' : undefined}
                className="flex h-12 items-center gap-3 pr-3 leading-tight hover:bg-panel aria-[current=page]:font-bold focus-visible:-outline-offset-3"
              >
                <Drawdown swatch={mix.prediction.swatch ?? undefined} className="h-12 w-24 shrink-0" />
                <bdi className="line-clamp-2 min-w-0 flex-1">{mix.entry.name ?? unnamed(mix)}</bdi>
              </Link>
            </li>
          ))}
        </ul>
      </Tabs.Content>
    </Tabs.Root>
  );
});

function unnamed(mix: Mix) {
  const parts = mix.prediction.parts.map((part) => part.name).join(' + ');
  return parts ? `${parts}, not named` : 'Empty pot';
}
