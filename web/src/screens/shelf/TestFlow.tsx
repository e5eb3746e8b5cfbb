import { useState } from 'react';
import type {
  Measured,
  Paint,
  PartsMethod,
  ReadingEntry,
  ReadingMade,
  Source,
  TestWorth,
} from '../../api/client';
import { ReadSample } from '../../common/ReadSample';
import { Panel } from '../../parts/Panel';
import { Segments } from '../../parts/Segments';
import { POURS, Taught } from '../../parts/Taught';
import { useAction } from '../../parts/useAction';
import { useReadingCalls } from '../../state/readings';

/** Wet thickness of a brushed coat, µm: what a drawdown is made with unless somebody says otherwise. */
const COAT = 90;

interface Props {
  test: TestWorth;
  paint: Paint;
  onClose: () => void;
}

/** A test from the first spoon to what it taught, in one dialog. */
export function TestFlow({ test: { test, of: parts }, paint, onClose }: Props) {
  const calls = useReadingCalls();
  const { attempt } = useAction();
  const [pour, setPour] = useState<PartsMethod>('spoons');
  const [made, setMade] = useState<ReadingMade>();
  const [problem, setProblem] = useState<string>();
  const name = paint.entry.name;
  const of = parts.map(({ paint, parts }) => ({ paint, parts }));
  const state = test === 'sealed' ? 'sealed' : 'dry';

  const keep = async (read: {
    thick?: Measured | undefined;
    over?: [Measured, Measured] | undefined;
    source: Source;
    device?: string;
  }) => {
    const entry: ReadingEntry = {
      of,
      pour,
      state,
      source: read.source,
      device: read.device ?? null,
      thick: read.thick ?? null,
      drawdown: read.over ? { wet_um: COAT, over_black: read.over[0], over_white: read.over[1] } : null,
    };
    setProblem(undefined);
    const kept = await attempt(
      'Couldn’t save the reading',
      () => calls.make(entry),
      ({ message }) => setProblem(message),
    );
    if (kept) setMade(kept);
    return kept !== undefined;
  };

  return (
    <Panel open onClose={onClose} title={titleOf(test, name)} className="w-[min(46rem,94vw)]">
      {made ? (
        <Taught made={made} onClose={onClose} />
      ) : (
        <div className="grid gap-4">
          <ol className="grid gap-2">
            {steps(test, parts).map((step, i) => (
              <li key={step} className="grid grid-cols-[2rem_1fr] items-baseline">
                <span className="font-display text-xl font-semibold">{i + 1}</span>
                <span>{step}</span>
              </li>
            ))}
          </ol>
          {of.length > 1 && (
            <div className="flex flex-wrap items-center gap-3">
              <span className="text-sm font-semibold">Measured with</span>
              <Segments label="Measured with" choices={POURS} value={pour} onChange={setPour} />
            </div>
          )}
          <ReadSample
            sample={{ of, state, ...(test === 'drawdown' ? { wet_um: COAT } : {}) }}
            two={test === 'drawdown'}
            problem={problem}
            onKeep={keep}
          />
        </div>
      )}
    </Panel>
  );
}

function titleOf(test: string, name: string) {
  if (test === 'tint-1-1') return `Tint test of ${name}, 1 : 1`;
  if (test === 'tint-1-4') return `Tint test of ${name}, 1 : 4`;
  if (test === 'darkened') return `${name} darkened, 4 : 1`;
  if (test === 'drawdown') return `Drawdown of ${name}`;
  return test === 'sealed' ? `${name} under wax` : `Masstone of ${name}`;
}

const COUNTS: Record<number, string> = { 1: 'one spoon', 4: 'four spoons' };

function steps(test: string, of: TestWorth['of']) {
  const thick = 'Brush it out on card, thick enough that nothing shows through, and let it dry.';
  const spoons = of.map(({ parts, name }) => `${COUNTS[parts] ?? `${parts} spoons`} of ${name}`);
  if (of.length > 1) return [`Stir ${spoons.join(' with ')}.`, thick, 'Read the dry dab.'];
  if (test === 'drawdown')
    return [
      `Brush one even coat of ${of[0]?.name} across a black and a white card.`,
      'Let it dry.',
      'Read it over the black, then over the white.',
    ];
  if (test === 'sealed')
    return [
      thick,
      'Rub clear wax over half of it, buff it off, wait until it is dry.',
      'Read the waxed half.',
    ];
  return [thick, 'Read the dry dab.'];
}
