import { Trash2 } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { Mix, MixEntry, MixPart, Paint } from '../../api/client';
import { Conflict } from '../../common/Conflict';
import { NotPredicted } from '../../common/NotPredicted';
import { NameInPlace } from '../../parts/NameInPlace';
import { inScale } from '../../parts/numbers';
import { Segments } from '../../parts/Segments';
import { useAction } from '../../parts/useAction';
import { useMeasured } from '../../state/bench';
import { usePour, usePourCalls, usePours, useScaleAtHand } from '../../state/pours';
import { useUnitScale } from '../../state/scales';
import { useDraft } from '../../state/useDraft';
import { useTellDeleted } from '../../state/useTellDeleted';
import { useMixCalls, useMixPreview } from '../../state/workspace';
import { Blend } from './Blend';
import { EMPTY, put, takeOut } from './entry';
import { Films } from './Films';
import { Ladder } from './Ladder';
import { MakeInto } from './MakeInto';
import { Match } from './Match';
import { MeasureOut } from './MeasureOut';
import { asked as askedOf, type Batch, finer, useUsualMeasure } from './measures';
import { Parts } from './Parts';
import { ProportionBar } from './ProportionBar';
import { Poured } from './pour/Poured';
import { Pouring } from './pour/Pouring';
import { Result } from './Result';
import { Tray } from './Tray';

const USES = [
  { id: 'mix', name: 'Mix' },
  { id: 'match', name: 'Match' },
  { id: 'ladder', name: 'Ladder' },
  { id: 'blend', name: 'Blend' },
] as const;

/** One mix on the bench, and the four uses of it: all work on the same pot and the same target. */
export function Bench({ mix, mixes, shelf }: { mix: Mix; mixes: Mix[]; shelf: Paint[] }) {
  const calls = useMixCalls();
  const tellDeleted = useTellDeleted();
  const { attempt } = useAction();
  const go = useNavigate();
  const [asked, ask] = useSearchParams();
  const use = USES.find(({ id }) => id === asked.get('use'))?.id ?? 'mix';
  const draft = useDraft<MixEntry, Mix>(mix, calls.put(mix.id), calls.get(mix.id), calls.saved);
  const { entry } = draft;
  const preview = useMixPreview(entry);
  const prediction = preview.last ?? mix.prediction;
  // A run sheet says how much it needs.
  const needed = asked.get('ml');
  const volume = useUnitScale('volume');
  const finest = useUsualMeasure();
  const [batch, setBatch] = useState<Batch>(
    needed
      ? { amount: inScale(Number(needed), volume), measure: finest, coats: '2' }
      : {
          ...(finest === 'ml' ? { amount: '250', measure: 'ml' } : { amount: '1', measure: 'cup' }),
          coats: '2',
        },
  );
  const [pouredIn, setPouredIn] = useState<string>(finest);
  const [next, setNext] = useState<string>();
  // A batch grows with what is added to it, and undo takes it back to what it was.
  const sizes = useRef(new Map<string, Batch>());
  const grow = (next: MixEntry, to: Batch) => {
    sizes.current.set(JSON.stringify(entry.components), batch);
    sizes.current.set(JSON.stringify(next.components), to);
    draft.change(next);
    setBatch(to);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when what is shown came from elsewhere
  useEffect(() => {
    const size = sizes.current.get(JSON.stringify(latest.current.entry.components));
    if (size) setBatch(size);
  }, [draft.origin]);
  const measured = useMeasured(entry.components, askedOf(batch));
  const pours = usePours(mix.id);
  const open = usePour(pours.data?.find((pour) => pour.open)?.id, pouredIn);
  const pour = use === 'mix' && open.data && !open.data.finished_at ? open.data : undefined;
  const weighs = useScaleAtHand();
  const pourCalls = usePourCalls(pouredIn);
  // The tray is as it was while a hand is on a joint: what it is given stays the same, so it is not drawn again.
  const ids = entry.components.map((part) => part.paint).join(' ');
  const inPot = useMemo(() => ids.split(' '), [ids]);
  const latest = useRef({ ...draft, pouring: false });
  latest.current = { ...draft, pouring: pour !== undefined };
  const pick = useCallback((paint: string) => {
    const { entry, change, pouring } = latest.current;
    if (pouring) return setNext(paint);
    const inside = entry.components.some((part) => part.paint === paint);
    change(inside ? takeOut(entry, paint) : put(entry, paint));
  }, []);

  const otherMixes = mixes.filter((other) => other.id !== mix.id);
  const thinned = prediction.parts.some((part) => part.medium);

  const remove = () =>
    attempt('Couldn’t delete the mix', async () => {
      await calls.remove(mix);
      void tellDeleted(entry.name ?? 'Mix without a name', mix.id);
      void go('/pot');
    });

  const pourIt = async (ml: number, measure: string) => {
    setPouredIn(weighs ? 'g' : finer(measure));
    setNext(undefined);
    await attempt('Couldn’t start pouring', () => pourCalls.begin(mix.id, ml));
  };

  const begin = async (name: string, components: MixPart[]) => {
    const made = await attempt('Couldn’t create the mix', () => calls.make({ ...EMPTY, name, components }));
    if (made) void go(`/pot/${made.id}`);
  };

  return (
    <div className="flex flex-col-reverse lg:h-full lg:flex-row">
      <Tray shelf={shelf} mixes={mixes} inPot={inPot} onPick={pick} />
      <section
        aria-label="Mix"
        className="relative flex min-h-0 min-w-0 flex-1 flex-col gap-3 px-4 pb-4 lg:overflow-auto pt-1 md:px-5"
      >
        {draft.conflict && <Conflict what="mix" conflict={draft.conflict} />}
        <h1 className="sr-only">{entry.name ?? 'Unnamed mix'}</h1>
        <div className="flex flex-wrap items-start gap-2">
          <div className="min-w-0 flex-1 max-md:basis-full">
            <NameInPlace
              key={draft.origin}
              label="Name of the mix"
              placeholder="Name this mix"
              kept={entry.name ?? ''}
              mayBeEmpty
              onKeep={(name) => draft.change({ ...entry, name: name || null })}
              error={draft.problem?.at('/name')}
              className="-mx-2 h-12 w-full font-display text-3xl font-[650] tracking-tight placeholder:text-edge"
            />
          </div>
          <Segments
            label="Mixing tool"
            choices={USES}
            value={use}
            onChange={(next) => ask(next === 'mix' ? {} : { use: next }, { replace: true })}
          />
          <button
            type="button"
            className="press press-bare px-0"
            aria-label="Delete this mix"
            onClick={remove}
          >
            <Trash2 size={20} aria-hidden />
          </button>
        </div>
        <NotPredicted preview={preview} shown={draft.problem?.message} />
        <Result
          key={`target ${draft.origin}`}
          entry={entry}
          onChange={draft.type}
          prediction={prediction}
          pour={pour}
          problem={draft.problem}
          shelf={shelf}
          mixes={otherMixes}
          low={use !== 'mix' || pour !== undefined}
          aiming={asked.has('aim')}
        />
        {pour && (
          <Pouring
            pour={pour}
            entry={entry}
            shelf={shelf}
            measure={pouredIn}
            onMeasure={setPouredIn}
            paint={next}
            onPaint={setNext}
            onRecipe={draft.change}
          />
        )}
        {use === 'mix' && !pour && (
          <>
            <ProportionBar entry={entry} parts={prediction.parts} onShow={draft.show} onChange={draft.change}>
              {entry.components.length > 0 && (
                <MakeInto
                  mix={mix}
                  entry={entry}
                  thinned={thinned}
                  onChange={draft.change}
                  onCopied={(id) => go(`/pot/${id}`)}
                />
              )}
            </ProportionBar>
            <Parts entry={entry} parts={prediction.parts} onChange={draft.change} />
            {thinned && <Films entry={entry} shelf={shelf} />}
            {entry.components.length > 0 && (
              <MeasureOut
                entry={entry}
                parts={prediction.parts}
                batch={batch}
                measured={measured}
                onBatch={setBatch}
                onAdded={grow}
                onPour={pourIt}
              />
            )}
            <Poured mix={mix.id} />
          </>
        )}
        {use === 'match' && (
          <Match entry={entry} shelf={shelf} batch={measured.data?.ml} onChange={draft.change} />
        )}
        {use === 'ladder' && <Ladder entry={entry} shelf={shelf} onBegin={begin} />}
        {use === 'blend' && (
          <Blend entry={entry} shelf={shelf} mixes={otherMixes} hex={prediction.swatch?.face.hex} />
        )}
      </section>
    </div>
  );
}
