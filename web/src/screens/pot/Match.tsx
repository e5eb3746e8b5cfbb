import { ChevronRight, Lightbulb, TriangleAlert, X } from 'lucide-react';
import { useState } from 'react';
import { type FoundRecipe, type MixEntry, type Paint, Problem, type Wanted } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { Doubt } from '../../parts/Doubt';
import { deltaE, oneDecimal } from '../../parts/numbers';
import { PaintPicker } from '../../parts/PaintPicker';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { useFound } from '../../state/bench';
import { useVolume } from '../../state/scales';
import { useMoney } from '../../state/workshop';
import { useClasses } from '../../state/workspace';
import { NearJars } from './NearJars';

interface Props {
  entry: MixEntry;
  shelf: Paint[];
  /** How much is to be mixed, ml. */
  batch: number | undefined;
  onChange: (entry: MixEntry) => void;
}

const MOST = [
  { id: '1', name: '1' },
  { id: '2', name: '2' },
  { id: '3', name: '3' },
  { id: '4', name: '4' },
] as const;

/** Recipes of the shelf for the target, the best first; one touch puts one into the pot. */
export function Match({ entry, shelf, batch, onChange }: Props) {
  const volume = useVolume();
  const [limits, setLimits] = useState<Omit<Wanted, 'target'>>({ paints: 3, with: [], without: [] });
  const wanted = entry.target ? { ...limits, target: entry.target, batch_ml: batch ?? null } : undefined;
  const { found, whole, searching, error, stop, goOn } = useFound(wanted);
  if (!entry.target)
    return (
      <p className="max-w-prose text-soft">
        Set a target first: a hex code, a paint of the shelf, or a colour picked in a photo. Recipes from the
        shelf follow at once.
      </p>
    );
  return (
    <div className="grid content-start gap-3">
      <Limits limits={limits} shelf={shelf} onChange={setLimits} />
      <div className="flex min-h-11 flex-wrap items-center justify-between gap-x-3">
        <p role="status" className="text-sm text-soft">
          {error instanceof Problem && <span className="font-semibold text-ink">{error.message}</span>}
          {found?.missing && (
            <span className="font-semibold text-ink">No match: {found.missing}. Closest recipes: </span>
          )}
          {found && !searching && whole && `Best of every mix of your ${found.paints} paints.`}
          {found && !searching && !whole && 'Stopped: these are the best of two paints.'}
          {searching && 'Looking through the shelf…'}
        </p>
        {searching && (
          <button type="button" className="press press-bare text-sm" onClick={stop}>
            <X size={18} aria-hidden /> Stop looking
          </button>
        )}
        {found && !searching && !whole && !error && (
          <button type="button" className="press press-bare text-sm" onClick={goOn}>
            Look further
          </button>
        )}
      </div>
      {found?.test && !searching && <p className="text-sm text-soft">{found.test.words}</p>}
      <NearJars entry={entry} onChange={onChange} />
      <ul aria-label="Recipes" className="grid gap-px">
        {found?.recipes.map((recipe) => (
          <Row
            key={recipe.parts.map((part) => part.paint).join(' ')}
            recipe={recipe}
            of={batch ? `for ${volume(batch)}` : 'a litre'}
            onTake={() =>
              onChange({
                ...entry,
                components: recipe.parts.map(({ paint, parts }) => ({ paint, parts })),
              })
            }
          />
        ))}
      </ul>
    </div>
  );
}

function Row({ recipe, of, onTake }: { recipe: FoundRecipe; of: string; onTake: () => void }) {
  const money = useMoney();
  const { judgement, swatch, parts } = recipe;
  const words = parts.map((part) => `${part.parts} ${part.name}`).join(' : ');
  return (
    <li>
      <button
        type="button"
        onClick={onTake}
        className="grid w-full cursor-pointer grid-cols-[8rem_minmax(0,1fr)_auto_2rem] items-stretch gap-x-3 bg-panel max-md:grid-cols-[5rem_minmax(0,1fr)_2rem] text-left hover:bg-paper focus-visible:-outline-offset-3"
      >
        <span aria-hidden className="flex min-h-16 max-md:row-span-2">
          <span className="flex-1" style={{ background: judgement.target.hex }} />
          <span className="flex-1" style={{ background: swatch.face.hex }} />
        </span>
        <span className="min-w-0 py-2 leading-tight">
          <span className="block font-semibold">
            <span className="sr-only">Use this recipe: </span>
            {words}
          </span>
          <span className="block text-sm">
            <b className="inline-block font-semibold first-letter:uppercase">{recipe.likely}</b>,{' '}
            {judgement.words}
          </span>
          {recipe.cautions.map((caution) => (
            <span key={caution} className="flex items-start gap-1.5 text-sm font-medium">
              <TriangleAlert size={15} aria-hidden className="mt-0.5 shrink-0" />
              <span className="first-letter:uppercase">{caution}</span>
            </span>
          ))}
          {recipe.enough === true && <span className="block text-sm text-soft">In stock</span>}
          {recipe.enough === false && <span className="block text-sm font-medium">Not enough in stock</span>}
        </span>
        <span className="grid content-center justify-items-end pr-3 text-sm text-soft max-md:flex max-md:flex-wrap max-md:gap-x-3 max-md:pb-2">
          <span>
            ΔE00 {deltaE(judgement.difference)} at best, <Doubt value={swatch.within} />
          </span>
          <span className="flex items-center gap-1">
            <Lightbulb size={14} aria-hidden />
            {oneDecimal(recipe.elsewhere)} {recipe.elsewhere_in === 'bulb' ? 'under a bulb' : 'in daylight'}
          </span>
          {recipe.cost != null && (
            <span>
              {money(recipe.cost)} {of}
            </span>
          )}
        </span>
        <ChevronRight
          size={20}
          aria-hidden
          className="self-center max-md:col-start-3 max-md:row-span-2 max-md:row-start-1"
        />
      </button>
    </li>
  );
}

interface LimitsProps {
  limits: Omit<Wanted, 'target'>;
  shelf: Paint[];
  onChange: (limits: Omit<Wanted, 'target'>) => void;
}

/** What the painter allows: how many paints, which must be used up, which not. */
function Limits({ limits, shelf, onChange }: LimitsProps) {
  const classes = useClasses().data ?? [];
  const paints = shelf.filter((paint) => !paint.medium);
  const name = (id: string) => paints.find((paint) => paint.id === id)?.entry.name ?? '';
  const used = limits.with ?? [];
  const banned = limits.without ?? [];
  const add = (key: 'with' | 'without', id: string) =>
    onChange({ ...limits, [key]: [...(limits[key] ?? []), id] });
  const drop = (key: 'with' | 'without', id: string) =>
    onChange({ ...limits, [key]: (limits[key] ?? []).filter((other) => other !== id) });
  const free = paints.filter((paint) => !used.includes(paint.id) && !banned.includes(paint.id));
  const choices = free.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch }));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-sm font-semibold">Max paints</span>
      <Segments
        label="Max paints"
        choices={MOST}
        value={String(limits.paints ?? 3) as '3'}
        onChange={(most) => onChange({ ...limits, paints: Number(most) })}
      />
      <PaintPicker
        label="Paint to use up"
        placeholder="Use up…"
        choices={choices}
        value=""
        onChange={(id) => add('with', id)}
      />
      <PaintPicker
        label="Paint to leave out"
        placeholder="Leave out…"
        choices={choices}
        value=""
        onChange={(id) => add('without', id)}
      />
      <Picker
        label="Type of paint"
        choices={[
          { id: 'all', name: 'Any type' },
          ...classes
            .filter((choice) => !choice.medium)
            .map(({ id, name }) => ({ id, name: `Only ${name.toLowerCase()}` })),
        ]}
        value={limits.classes?.[0] ?? 'all'}
        onChange={(id) => onChange({ ...limits, classes: id === 'all' ? [] : [id] })}
      />
      <Checkbox
        className="text-sm font-semibold"
        checked={limits.no_black ?? false}
        onChange={(on) => onChange({ ...limits, no_black: on })}
      >
        No black
      </Checkbox>
      {[...used.map((id) => ['with', id] as const), ...banned.map((id) => ['without', id] as const)].map(
        ([key, id]) => (
          <button key={id} type="button" className="press press-plain text-sm" onClick={() => drop(key, id)}>
            {key === 'with' ? 'With' : 'Without'} {name(id)} <span aria-hidden>×</span>
            <span className="sr-only">: remove this limit</span>
          </button>
        ),
      )}
    </div>
  );
}
