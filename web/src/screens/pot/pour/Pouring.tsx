import { Undo2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { type MixEntry, type Paint, type PotFix, type PourView, Problem } from '../../../api/client';
import { useTell } from '../../../parts/Notice';
import { deltaE } from '../../../parts/numbers';
import { Picker } from '../../../parts/Picker';
import { TroubleLine } from '../../../parts/TroubleLine';
import { NO_ANSWER } from '../../../parts/useAction';
import { usePourCalls, useScale } from '../../../state/pours';
import { useTellDeleted } from '../../../state/useTellDeleted';
import { Correct } from '../Correct';
import { POURED_IN } from '../measures';
import { Amounts } from './Amounts';
import { ByScale } from './ByScale';
import { Finish } from './Finish';
import { Into } from './Into';

interface Props {
  pour: PourView;
  entry: MixEntry;
  shelf: Paint[];
  measure: string;
  onMeasure: (measure: string) => void;
  /** The paint that goes in next. */
  paint: string | undefined;
  onPaint: (paint: string) => void;
  /** What was poured becomes the recipe. */
  onRecipe: (entry: MixEntry) => void;
}

/** A pot that is being poured: what goes in next, how much, and what has gone in. */
export function Pouring({ pour, entry, shelf, measure, onMeasure, paint, onPaint, onRecipe }: Props) {
  const calls = usePourCalls(measure);
  const scale = useScale();
  const tell = useTell();
  const tellDeleted = useTellDeleted();
  const [wrong, setWrong] = useState<string>();
  const [goal, setGoal] = useState<{ paint: string; grams: number }>();
  const [byHand, setByHand] = useState(false);
  const active = pour.paints.find((one) => one.paint === paint) ?? pour.paints.find((one) => one.left);
  const chosen = paint ?? active?.paint ?? pour.paints[0]?.paint;
  const chosenPart = pour.paints.find((one) => one.paint === chosen);
  const connected = scale.scale?.name != null;

  // One thing at a time: a second tap is not a second spoon.
  const under = useRef(false);
  const attempt = async (action: () => Promise<unknown>) => {
    if (under.current) return false;
    under.current = true;
    try {
      setWrong(undefined);
      await action();
      return true;
    } catch (error) {
      setWrong(error instanceof Problem ? error.message : `Couldn’t record that: ${NO_ANSWER}`);
      return false;
    } finally {
      under.current = false;
    }
  };
  const add = (unit: string, count?: number) =>
    attempt(async () => {
      if (!chosen) return;
      await calls.step(pour.id, chosen, unit, count);
      setGoal(undefined);
    });
  const fix = (taken: PotFix) =>
    attempt(async () => {
      for (const part of taken.additions) await calls.step(pour.id, part.paint, 'ml', part.ml);
    });
  const last = pour.steps[0];
  // While a paint of the plan is not in at all, the pot is off it and off the target as a matter of course.
  const begun = pour.paints.every((one) => one.planned_ml === 0 || one.ml > 0);
  const wanted = goal && goal.paint === chosen ? goal.grams : active?.paint === chosen ? active?.left_g : 0;

  return (
    <div className="grid items-start gap-x-8 gap-y-3 border-t border-line pt-3 xl:grid-cols-2 xl:grid-rows-[auto_1fr]">
      <section aria-label="Pouring" className="relative grid gap-2">
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h2 className="text-xl">
            {pour.total} in the pot
            {begun && pour.against_plan && pour.against_plan.difference >= 0.5 && (
              <span className="block font-sans text-sm font-normal first-letter:uppercase">
                {pour.against_plan.words}, ΔE00 {deltaE(pour.against_plan.difference)}
              </span>
            )}
          </h2>
          <Picker label="Amounts in" choices={POURED_IN} value={measure} onChange={onMeasure} />
        </div>
        <Into pour={pour} shelf={shelf} chosen={chosen} onChoose={onPaint} />
      </section>
      <section
        aria-label="What goes in"
        className="relative grid gap-3 xl:col-start-2 xl:row-span-2 xl:row-start-1"
      >
        <h2 className="sr-only">What goes in</h2>
        {connected && !byHand && scale.scale ? (
          <ByScale
            scale={scale.scale}
            name={shelf.find((one) => one.id === chosen)?.entry.name ?? 'this paint'}
            wanted={wanted ?? 0}
            onTake={() => add('scale')}
            onTouch={() => add('scale-touch')}
            onBegin={() => attempt(scale.begin)}
            onSimulate={(action, grams) => attempt(() => scale.simulate(action, grams))}
          />
        ) : (
          <Amounts
            measure={measure}
            left={
              chosenPart?.left && chosenPart.left_count
                ? { words: chosenPart.left, count: chosenPart.left_count }
                : undefined
            }
            onAdd={add}
          />
        )}
        {connected && (
          <button
            type="button"
            className="press press-bare justify-self-start px-2 text-sm"
            onClick={() => setByHand(!byHand)}
          >
            {byHand ? 'Weigh on the scale' : 'Enter by hand'}
          </button>
        )}
        {wrong && <TroubleLine>{wrong}</TroubleLine>}
      </section>
      <section aria-label="So far" className="relative grid content-start gap-2">
        <h2 className="sr-only">So far</h2>
        {last && (
          <div className="flex items-center gap-3">
            <p className="min-w-0 flex-1">
              <span className="text-soft">Last: </span>
              <b>{last.amount}</b> {last.name}
            </p>
            <button
              type="button"
              className="press press-plain"
              onClick={() => attempt(() => calls.takeBack(pour.id, last.id))}
            >
              <Undo2 size={18} aria-hidden /> Undo last
            </button>
          </div>
        )}
        {begun && pour.judgement && pour.total_ml >= 1 && (
          <Correct
            entry={{ ...entry, components: pour.recipe }}
            amount={pour.total_ml}
            measure="ml"
            onAdded={connected && !byHand ? undefined : fix}
            onWeigh={
              connected && !byHand
                ? (part) => {
                    onPaint(part.paint);
                    setGoal({ paint: part.paint, grams: part.grams });
                  }
                : undefined
            }
          />
        )}
        <Finish
          pour={pour}
          onTakeOut={(ml) => attempt(() => calls.step(pour.id, undefined, 'ml', ml))}
          onFinish={async (asRecipe) => {
            const done = await attempt(() => calls.finish(pour.id));
            if (!done) return;
            if (asRecipe) onRecipe({ ...entry, components: pour.recipe });
            tell('Pot finished. Read a dab or print the label.');
          }}
          onAway={async () => {
            if (await attempt(() => calls.remove(pour.id))) void tellDeleted(`Pot ${pour.code}`, pour.id);
          }}
        />
      </section>
    </div>
  );
}
