import { Flag, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { PourView } from '../../../api/client';
import { useUnitScale } from '../../../state/scales';
import { AmountForm } from './AmountForm';

interface Props {
  pour: PourView;
  onTakeOut: (ml: number) => Promise<boolean>;
  /** Closes the record; true where what was poured becomes the recipe of the mix. */
  onFinish: (asRecipe: boolean) => void;
  onAway: () => void;
}

/** The end of a pour: close the record, or take some of the pot out first. */
export function Finish({ pour, onTakeOut, onFinish, onAway }: Props) {
  const [out, setOut] = useState(false);
  const volume = useUnitScale('volume');
  const off = pour.against_plan != null && pour.against_plan.difference > 0.05;
  return (
    <div className="grid gap-2 border-t border-line pt-3">
      <div className="flex flex-wrap gap-2">
        {off && (
          <button type="button" className="press press-ink basis-full" onClick={() => onFinish(true)}>
            <Flag size={18} aria-hidden /> Finish and update recipe
          </button>
        )}
        <button
          type="button"
          className={`press ${off ? 'press-plain' : 'press-ink flex-1'}`}
          data-mark="finish pouring"
          disabled={pour.steps.length === 0}
          onClick={() => onFinish(false)}
        >
          {!off && <Flag size={18} aria-hidden />} {off ? 'Finish, keep the recipe' : 'Finish pouring'}
        </button>
        {pour.total_ml > 0 && (
          <button type="button" className="press press-bare" aria-expanded={out} onClick={() => setOut(!out)}>
            Take some out
          </button>
        )}
        <button type="button" className="press press-bare px-0" aria-label="Delete this pot" onClick={onAway}>
          <Trash2 size={18} aria-hidden />
        </button>
      </div>
      {out && (
        <AmountForm
          label={`Taken out, ${volume.unit}`}
          placeholder={`how much, ${volume.unit}`}
          unit={volume}
          action="Taken out"
          onGive={async (ml) => {
            setOut(false);
            return onTakeOut(ml);
          }}
        />
      )}
    </div>
  );
}
