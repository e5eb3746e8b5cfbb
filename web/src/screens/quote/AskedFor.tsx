import {
  type PieceChoices,
  Problem,
  type QuoteAsked,
  type QuoteView,
  type ReadyFinish,
} from '../../api/client';
import { AddMedium } from '../../common/AddMedium';
import { MainColour } from '../../common/MainColour';
import { MeasureField } from '../../common/MeasureField';
import { Field } from '../../parts/Field';
import { Named } from '../../parts/Named';
import { Picker } from '../../parts/Picker';
import { TroubleLine } from '../../parts/TroubleLine';
import type { useBoardChoices } from '../../state/boards';
import type { LastPreview } from '../../state/preview';

interface Props {
  asked: QuoteAsked;
  choices: PieceChoices;
  boards: NonNullable<ReturnType<typeof useBoardChoices>>;
  quote: LastPreview<QuoteView>;
  /** What the shelf would make of each finish. */
  ready: ReadyFinish[];
  onChange: (asked: QuoteAsked) => void;
}

const SIZES = ['width', 'height', 'depth'] as const;
const NONE = 'none';

/** What the client asks for. */
export function AskedFor({ asked, choices, boards, quote, ready, onChange }: Props) {
  const problem = quote.error instanceof Problem ? quote.error : undefined;
  const change = (part: Partial<QuoteAsked>) => onChange({ ...asked, ...part });
  const kind = choices.kinds.find(({ id }) => id === asked.kind);
  const [first, second] = asked.finishes;
  const finish = (n: number, part: Partial<QuoteAsked['finishes'][number]>) =>
    change({ finishes: asked.finishes.map((one, at) => (at === n ? { ...one, ...part } : one)) });
  const mediums = ready
    .filter(({ id }) => asked.finishes.some(({ template }) => template === id))
    .flatMap(({ medium }) => medium ?? []);
  const lacking = mediums.filter((one, at) => mediums.findIndex((other) => other.class === one.class) === at);
  const elsewhere = problem && !SIZES.some((size) => problem.at(`/${size}`)) && problem.message;
  return (
    <section aria-label="What the client asks for" className="grid gap-3">
      <Named name="What it is">
        <Picker
          label="What it is"
          className="w-full"
          choices={choices.kinds}
          value={asked.kind}
          onChange={(id) => {
            const usual = choices.kinds.find((one) => one.id === id)?.usual;
            if (usual) change({ kind: id, width: usual.width, height: usual.height, depth: usual.depth });
          }}
        />
      </Named>
      <div className="grid grid-cols-3 gap-2">
        {SIZES.filter((size) => kind?.asks.some(({ id }) => id === size)).map((size) => (
          <MeasureField
            key={`${asked.kind} ${size}`}
            label={kind?.asks.find(({ id }) => id === size)?.name ?? size}
            measured="length"
            said={quote.last?.dimensions.find(({ id }) => id === size)?.said ?? ''}
            error={problem?.at(`/${size}`)}
            onChange={(mm) => change({ [size]: mm })}
          />
        ))}
      </div>
      <Named name="How carved">
        <Picker
          label="How carved"
          className="w-full"
          choices={[{ id: NONE, name: 'As usual for its kind' }, ...choices.carvings]}
          value={asked.carving ?? NONE}
          onChange={(id) => change({ carving: id === NONE ? null : id })}
        />
      </Named>
      <Named name="What is on it">
        <Picker
          label="What is on it"
          className="w-full"
          choices={boards.grounds}
          value={asked.ground}
          onChange={(ground) => change({ ground })}
        />
      </Named>
      <Named name="Finish">
        <Picker
          label="Finish"
          className="w-full"
          choices={boards.templates}
          value={first?.template ?? ''}
          onChange={(template) => finish(0, { template })}
        />
      </Named>
      <MainColour label="Main colour" base={first?.base} onChange={(base) => finish(0, { base })} />
      <Named name="Fronts">
        <Picker
          label="Fronts"
          className="w-full"
          choices={[{ id: NONE, name: 'The same finish' }, ...boards.templates]}
          value={second?.template ?? NONE}
          onChange={(template) =>
            change({
              finishes: [...asked.finishes.slice(0, 1), ...(template === NONE ? [] : [{ template }])],
            })
          }
        />
      </Named>
      {second && (
        <MainColour
          label="Colour of the fronts"
          base={second.base}
          onChange={(base) => finish(1, { base })}
        />
      )}
      {elsewhere && <TroubleLine>{elsewhere}</TroubleLine>}
      {lacking.map((medium) => (
        <AddMedium key={medium.class} medium={medium} />
      ))}
      <Field
        label="Client"
        value={asked.client ?? ''}
        onChange={(client) => change({ client })}
        error={undefined}
      />
      <Field
        label="Name of the piece"
        value={asked.name ?? ''}
        placeholder={kind?.name ?? ''}
        onChange={(name) => change({ name })}
        error={undefined}
      />
    </section>
  );
}
