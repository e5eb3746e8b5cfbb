import { useState } from 'react';
import { Link } from 'react-router';
import type { Mix, MixEntry, Paint, PourView, Prediction, Problem, Swatch } from '../../api/client';
import { Term } from '../../common/Term';
import { useInLights, useLight, useLightName } from '../../light/light';
import { Doubt } from '../../parts/Doubt';
import { Drawdown } from '../../parts/Drawdown';
import { FullScreen } from '../../parts/FullScreen';
import { keyed } from '../../parts/keyed';
import { coats, deltaE, labWords } from '../../parts/numbers';
import type { Change } from '../../state/useDraft';
import { ofPour, ReadPot } from './ReadPot';
import { Target } from './Target';
import { Why } from './Why';

interface Props {
  entry: MixEntry;
  onChange: (entry: Change<MixEntry>) => void;
  prediction: Prediction;
  /** Where a pot is being poured: it is shown in place of the plan. */
  pour: PourView | undefined;
  problem: Problem | undefined;
  shelf: Paint[];
  /** Other mixes, to aim at. */
  mixes: Mix[];
  /** Lower, where something else wants the room. */
  low: boolean;
  /** True where a target is to be chosen first. */
  aiming: boolean;
}

/** What comes out: the mix and, touching it, the target; the verdict in words, then the numbers. */
export function Result({ entry, onChange, prediction, pour, problem, shelf, mixes, low, aiming }: Props) {
  const light = useLightName();
  const [asked, setAsked] = useState(false);
  const { state } = useLight();
  const { swatch, judgement } = pour ?? prediction;
  const target = entry.target ? (judgement ?? prediction.judgement)?.target : undefined;
  const words = pour ? poured(pour) : verdict(entry, prediction);
  const lights = swatch?.lights.map((hex) => [hex]);
  const aims = judgement && entry.target ? judgement.lights : undefined;
  useInLights(aims ? lights?.map((mix, n) => [...aims.slice(n, n + 1), ...mix]) : lights);
  const aim = pour ? 'pot' : 'mix';
  const face = swatch?.face;

  return (
    <div className={`flex flex-col gap-2 ${low ? 'min-h-48' : 'min-h-64 flex-1'}`}>
      <div className="flex items-center justify-between gap-3">
        <p aria-live="polite" className="font-display text-xl font-semibold first-letter:uppercase">
          {words}
        </p>
        <Target
          entry={entry}
          shelf={shelf}
          mixes={mixes}
          onChange={onChange}
          problem={problem}
          aiming={aiming}
        />
      </div>
      <div className="flex min-h-0 flex-1 flex-col">
        <div className="flex flex-1">
          {target && (
            <div
              role="img"
              aria-label={`Target, ${target.hex}`}
              className="flex-1"
              style={{ background: target.hex }}
            />
          )}
          <div className="flex flex-1 flex-col">
            {swatch && <Halo codes={swatch.halo} />}
            <div
              role="img"
              aria-label={face ? `${pour ? 'In the pot' : 'Mix'}, ${face.hex}` : 'Nothing in the pot'}
              className="flex-1 bg-panel"
              style={face && { background: face.hex }}
            />
          </div>
        </div>
        <Drawdown swatch={swatch ?? undefined} className={`shrink-0 ${low ? 'h-8' : 'h-16'}`} />
      </div>
      <div className="flex min-h-11 items-center justify-between gap-3 text-sm">
        <p className="text-soft">
          {swatch && entry.components.length > 1 && <Sureness swatch={swatch} by={prediction.narrowed_by} />}
          {target && judgement && (
            <>
              <b className="text-ink">Target left, {aim} right.</b> <Term id="delta-e">ΔE00</Term>{' '}
              {deltaE(judgement.difference)} in {light}.{' '}
            </>
          )}
          {face && (
            <>
              {labWords(face.lab)} in {light}, {state}.
              {!face.in_gamut && ' More vivid than this screen can show.'}
            </>
          )}
        </p>
        <span className="flex-1" />
        {swatch && !pour && (
          <button type="button" className="press press-bare shrink-0" onClick={() => setAsked(true)}>
            Why?
          </button>
        )}
        <Why entry={entry} open={asked} onClose={() => setAsked(false)} />
        <ReadPot
          name={entry.name ?? 'what was mixed'}
          {...(pour ? ofPour(pour) : { of: entry.components })}
        />
        {face && (
          <FullScreen title={entry.name ?? 'Mix'}>
            {target && <div className="flex-1" style={{ background: target.hex }} />}
            <div className="flex-1" style={{ background: face.hex }} />
          </FullScreen>
        )}
      </div>
    </div>
  );
}

/** What the mix could as well be, touching what it most probably is. */
function Halo({ codes }: { codes: string[] }) {
  if (codes.length === 0) return null;
  return (
    <div aria-hidden title="It could equally be any of these" className="flex h-6 shrink-0">
      {keyed(codes, (hex) => hex).map(({ key, item: hex }) => (
        <span key={key} className="flex-1" style={{ background: hex }} />
      ))}
    </div>
  );
}

/** How sure the prediction is, and what would make it surer. */
function Sureness({ swatch, by }: { swatch: Swatch; by?: Prediction['narrowed_by'] }) {
  const link = 'font-semibold text-ink underline underline-offset-3';
  return (
    <span className="block">
      <b className="text-ink">
        <span className="inline-block first-letter:uppercase">{swatch.certainty}</span>,{' '}
        <Term id="band">
          <Doubt value={swatch.within} />
        </Term>
        .
      </b>
      {by?.kind === 'test' && (
        <>
          {' '}
          <Link to={`/shelf/${by.paint}`} className={link}>
            Test {by.name}
          </Link>{' '}
          to narrow it.
        </>
      )}
      {by?.kind === 'board' && (
        <>
          {' '}
          What the medium does to the paint shows only on{' '}
          <Link to="/board" className={link}>
            a sample board
          </Link>
          .
        </>
      )}
    </span>
  );
}

function poured(pour: PourView) {
  if (!pour.swatch) return 'The pot is empty: pour the first paint';
  return pour.judgement?.words ?? pour.against_plan?.words ?? '';
}

function verdict(entry: MixEntry, { swatch, judgement }: Prediction) {
  if (entry.components.length === 0) return 'Empty pot: add a paint';
  if (judgement && entry.target) return judgement.words;
  if (entry.components.length === 1) return 'Add a second paint';
  if (!swatch) return '';
  return swatch.hides_in ? `covers in ${coats(swatch.hides_in)}` : 'clear: does not cover';
}
