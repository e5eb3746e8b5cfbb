import { useState } from 'react';
import { Link } from 'react-router';
import type { Piece, PiecePrediction } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { plainNumber } from '../../parts/numbers';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { Failed } from '../../parts/Waiting';
import { usePieceReasons } from '../../state/guide';
import { DepthMap } from './DepthMap';
import { chosenOf, clashOf, schemeOf, withScheme } from './entry';
import { Pulls } from './Pulls';

interface Props {
  entry: Piece;
  standing: PiecePrediction;
  unifying: boolean;
  onUnify: () => void;
  onChange: (entry: Piece) => void;
}

const INTENTS = [
  { id: 'quiet', name: 'Quiet' },
  { id: 'layered', name: 'Layered' },
  { id: 'bold', name: 'Bold' },
];

/** Whether the parts belong together: the verdict, what would help, a map; the numbers behind it on demand. */
export function Verdict({ entry, standing, unifying, onUnify, onChange }: Props) {
  const { verdict, pairs, pulls, findings } = standing;
  const [asked, setAsked] = useState(false);
  return (
    <section aria-label="Verdict" className="grid gap-3">
      <div>
        <h2 className="text-2xl leading-tight">
          <span role="status">{verdict.headline}</span>
        </h2>
        <p className="text-sm text-soft">{verdict.detail}</p>
      </div>
      {(clashOf(standing) || unifying) && (
        <button
          type="button"
          className={`press ${unifying ? 'press-plain' : 'press-ink'}`}
          aria-pressed={unifying}
          onClick={onUnify}
        >
          Unify
        </button>
      )}
      <DepthMap standing={standing} />
      <Segments
        label="Contrast between adjoining parts"
        choices={INTENTS}
        value={schemeOf(entry).intent}
        onChange={(intent) => onChange(withScheme(entry, { intent }))}
        className="-mt-2 inline-flex"
      />
      <details className="-mt-3" onToggle={(event) => setAsked(event.currentTarget.open)}>
        <summary className="min-h-11 cursor-pointer py-3 text-sm font-semibold">Why?</summary>
        <div className="grid gap-3">
          <HowSure entry={entry} asked={asked} />
          <ul className="grid gap-2">
            {findings.map((finding) => (
              <li key={finding.what} className="leading-tight">
                <span className="block text-sm font-semibold">{finding.what}</span>
                <span className="block text-sm text-soft first-letter:uppercase">{finding.from}</span>
              </li>
            ))}
          </ul>
          {pulls.length > 0 && (
            <div className="grid gap-2">
              <h3 className="text-sm font-semibold">Or shift one colour towards the next</h3>
              <Pulls pulls={pulls} />
            </div>
          )}
          {pairs.length > 0 && <Pairs entry={entry} standing={standing} onChange={onChange} />}
        </div>
      </details>
    </section>
  );
}

/** Whether the verdict would be another one with the paints as they may be, and which of them to test. */
function HowSure({ entry, asked }: { entry: Piece; asked: boolean }) {
  const { data, error, refetch } = usePieceReasons(entry, chosenOf(entry), asked);
  if (error) return <Failed error={error} retry={() => void refetch()} />;
  if (!data) return <p className="text-sm text-soft">Dressing it from other tins…</p>;
  const first = data.guesses[0];
  return (
    <div className="grid gap-1 text-sm">
      <p>{data.words}</p>
      {first && (
        <p>
          Least sure: {first.words}.{' '}
          {first.paint && (
            <Link to={`/shelf/${first.paint}`} className="font-semibold underline underline-offset-3">
              Test it
            </Link>
          )}
        </p>
      )}
    </div>
  );
}

const STANDS: Record<string, string> = { in: 'fine', near: 'too alike', far: 'too different' };

/** Every pair of neighbours with what is meant for it. */
function Pairs({ entry, standing, onChange }: Pick<Props, 'entry' | 'standing' | 'onChange'>) {
  const scheme = schemeOf(entry);
  const mean = (one: string, other: string, intent: string) => {
    const others = (scheme.pairs ?? []).filter(
      (pair) => !(pair.one === one && pair.other === other) && !(pair.one === other && pair.other === one),
    );
    const own = intent === scheme.intent ? [] : [{ one, other, intent }];
    onChange(withScheme(entry, { pairs: [...others, ...own] }));
  };
  return (
    <div className="grid gap-2">
      <h3 className="text-sm font-semibold">Every pair and its contrast</h3>
      <ul className="grid gap-1">
        {standing.pairs.map((pair) => (
          <li key={pair.name} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 leading-tight">
              <span className="block truncate text-sm font-semibold">{pair.name}</span>
              <span className="block text-sm text-soft">
                {plainNumber(Math.round(pair.contrast))}, {STANDS[pair.stands]} ({plainNumber(pair.least)} to{' '}
                {plainNumber(pair.most)})
              </span>
            </span>
            <Picker
              label={`Contrast wanted for ${pair.name.toLowerCase()}`}
              choices={INTENTS}
              value={pair.intent}
              onChange={(intent) => mean(pair.one, pair.other, intent)}
            />
          </li>
        ))}
      </ul>
      <Windows entry={entry} onChange={onChange} />
    </div>
  );
}

/** How far apart is meant by each word; for the whole piece. */
function Windows({ entry, onChange }: Pick<Props, 'entry' | 'onChange'>) {
  const { windows } = entry;
  if (!windows) return null;
  const set = (id: 'quiet' | 'layered' | 'bold', at: number, value: number) => {
    const next = windows[id].map((old, n) => (n === at ? value : old));
    onChange({ ...entry, windows: { ...windows, [id]: next } });
  };
  return (
    <fieldset className="mt-3 grid gap-2">
      <legend className="text-sm font-semibold">Contrast allowed, ΔE00 seen from across the room</legend>
      {INTENTS.map(({ id, name }) => {
        const own = id as 'quiet' | 'layered' | 'bold';
        return (
          <div key={id} className="grid grid-cols-2 gap-2">
            {['least', 'most'].map((end, n) => (
              <NumberField
                key={end}
                label={`${name}, ${end}`}
                value={windows[own][n]}
                error={undefined}
                onChange={(value) => set(own, n, value)}
              />
            ))}
          </div>
        );
      })}
    </fieldset>
  );
}
