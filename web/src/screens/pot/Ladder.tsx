import { RadioGroup } from 'radix-ui';
import { useState } from 'react';
import { type LadderRung, type MixEntry, type MixPart, type Paint, Problem } from '../../api/client';
import { Term } from '../../common/Term';
import { Field } from '../../parts/Field';
import { oneDecimal, small } from '../../parts/numbers';
import { Picker } from '../../parts/Picker';
import { TroubleLine } from '../../parts/TroubleLine';
import { useLadder } from '../../state/bench';

interface Props {
  entry: MixEntry;
  shelf: Paint[];
  /** Puts a mix on a bench of its own. */
  onBegin: (name: string, components: MixPart[]) => void;
}

/** Shades of what is in the pot, from five darker to five lighter, as mixes of the shelf. */
export function Ladder({ entry, shelf, onBegin }: Props) {
  const [written, setWritten] = useState('6');
  const [chosen, setChosen] = useState(-3);
  const size = small(written);
  const wrong = size === undefined || size === null || size < 1 || size > 20;
  const [card, setCard] = useState<string[]>([]);
  const ladder = useLadder(entry.components, wrong ? undefined : size, card);
  if (entry.components.length === 0)
    return <p className="text-soft">Add a paint first. The ladder starts from the mix in the pot.</p>;
  const paints = shelf.filter((paint) => !paint.medium);
  const rungs = ladder.data?.rungs ?? [];
  const rung = rungs.find(({ shade }) => shade === chosen);
  return (
    <div className="grid content-start gap-3">
      <div className="flex flex-wrap items-end justify-between gap-4">
        <p className="max-w-prose text-sm text-soft">
          Keep glazes 3 to 5 <Term id="shade">shades</Term> away.
        </p>
        <div className="flex flex-wrap items-end gap-2">
          {card.length < 2 && (
            <div className="w-36">
              <Field
                label="One shade, L*"
                value={written}
                onChange={setWritten}
                error={wrong ? 'a shade must be 1 to 20 L*' : undefined}
              />
            </div>
          )}
          {[0, 1]
            .map((at) => (
              <Picker
                key={at}
                label={at === 0 ? 'Measure one shade from' : 'Measure one shade to'}
                choices={[
                  { id: 'none', name: at === 0 ? 'or measure between…' : 'to…' },
                  ...paints
                    .filter((paint) => paint.id !== card[1 - at])
                    .map((paint) => ({ id: paint.id, name: paint.entry.name })),
                ]}
                value={card[at] ?? 'none'}
                onChange={(id) =>
                  setCard(id === 'none' ? [] : at === 0 ? [id, ...card.slice(1)] : [card[0] ?? id, id])
                }
              />
            ))
            .slice(0, card.length > 0 ? 2 : 1)}
          {card.length === 2 && ladder.data && (
            <p className="pb-3 text-sm">One shade is {oneDecimal(ladder.data.shade)} L*</p>
          )}
        </div>
        {ladder.error instanceof Problem && (
          <TroubleLine className="basis-full text-sm">{ladder.error.message}</TroubleLine>
        )}
      </div>
      <RadioGroup.Root
        value={String(chosen)}
        onValueChange={(next) => setChosen(Number(next))}
        aria-label="Shades"
        className="flex h-40"
      >
        {rungs.map((step) => (
          <RadioGroup.Item
            key={step.shade}
            value={String(step.shade)}
            aria-label={`${shadeName(step.shade)}${step.made ? '' : ', not from this shelf'}`}
            className="group flex min-w-0 flex-1 cursor-pointer flex-col focus-visible:z-10"
          >
            <span
              aria-hidden
              className={`w-full flex-1 ${step.made ? '' : 'bg-[repeating-linear-gradient(135deg,var(--color-line)_0_1px,transparent_1px_7px)]'}`}
              style={step.made ? { background: step.made.hex } : undefined}
            />
            <span
              aria-hidden
              className="grid h-11 w-full place-items-center border-b-2 border-transparent text-sm group-aria-checked:border-ink group-aria-checked:font-semibold"
            >
              {step.shade > 0 ? `+${step.shade}` : String(step.shade).replace('-', '−')}
            </span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      {rung && <Chosen rung={rung} name={entry.name ?? 'this mix'} onBegin={onBegin} />}
    </div>
  );
}

function shadeName(shade: number) {
  if (shade === 0) return 'The base';
  const count = Math.abs(shade);
  return `${count} shade${count > 1 ? 's' : ''} ${shade > 0 ? 'lighter' : 'darker'}`;
}

function Chosen({ rung, name, onBegin }: { rung: LadderRung; name: string; onBegin: Props['onBegin'] }) {
  const title = shadeName(rung.shade);
  if (!rung.made)
    return (
      <p>
        <b>{title}:</b> nothing on the shelf takes it to L* {oneDecimal(rung.wanted)} without turning its hue.
      </p>
    );
  const { made } = rung;
  const parts = [
    `${made.base} ${made.base > 1 ? 'parts' : 'part'} of ${name}`,
    ...made.more.map((part) => `${part.parts} ${part.name}`),
  ].join(' : ');
  return (
    <div className="flex flex-wrap items-center justify-between gap-3">
      <p>
        <b className="block font-display text-xl">{title}</b>
        {rung.shade === 0 ? 'What is in the pot.' : parts}
        <span className="block text-sm text-soft">
          {rung.shade !== 0 && (
            <b className="inline-block font-semibold first-letter:uppercase">{made.likely}</b>
          )}
          {rung.shade !== 0 && ' of its shade, '}L* {oneDecimal(made.lab[0] ?? 0)}, hue shift{' '}
          {oneDecimal(made.leans)}
        </span>
      </p>
      {rung.shade !== 0 && (
        <button
          type="button"
          className="press press-ink"
          onClick={() => onBegin(`${name}, ${title}`.slice(0, 80), made.components)}
        >
          Mix it
        </button>
      )}
    </div>
  );
}
