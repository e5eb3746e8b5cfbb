import { ScanLine } from 'lucide-react';
import { useState } from 'react';
import type { Colour, Measured, ReadOut, Source, ToRead } from '../api/client';
import { Checkbox } from '../parts/Checkbox';
import { ColourField } from '../parts/ColourField';
import { keyed } from '../parts/keyed';
import { Segments } from '../parts/Segments';
import { TroubleLine } from '../parts/TroubleLine';
import { why } from '../parts/useAction';
import { useReader, useReadingCalls } from '../state/readings';
import { PhotoPick } from './PhotoPick';

const READER = { id: 'reader', name: 'Colour reader' } as const;
const PRACTISE = { id: 'reader', name: 'Practise' } as const;
const OWN = [
  { id: 'type', name: 'Type it' },
  { id: 'photo', name: 'From a photo' },
] as const;

export type WayToRead = (typeof READER | (typeof OWN)[number])['id'];

/** Ways to come by a reading, and the one that is chosen: the stand-in for a reader comes first only where all tins are made up. */
export function useWaysToRead() {
  const practice = useReader()?.practice ?? false;
  const [chosen, setWay] = useState<WayToRead>();
  return {
    ways: practice ? [...OWN, PRACTISE] : [READER, ...OWN],
    way: chosen ?? (practice ? 'type' : 'reader'),
    setWay,
    practice,
  };
}

interface Props {
  sample: ToRead;
  /** Over black and over white, rather than one. */
  two: boolean;
  /** Why the last one was not kept. */
  problem: string | undefined;
  /** Answers whether it was kept. */
  onKeep: (read: {
    thick?: Measured | undefined;
    over?: [Measured, Measured] | undefined;
    source: Source;
    device?: string;
  }) => Promise<boolean>;
}

/** A sample read by the colour reader, by typing what another reader says, or from a photo. */
export function ReadSample({ sample, two, problem, onKeep }: Props) {
  const { ways, way, setWay, practice } = useWaysToRead();
  return (
    <section aria-label="Read it" className="grid gap-3 rounded bg-panel p-4">
      <Segments label="How to read it" choices={ways} value={way} onChange={setWay} />
      {way === 'reader' && <ByReader practice={practice} sample={sample} onKeep={onKeep} />}
      {way === 'type' && <ByTyping two={two} onKeep={onKeep} />}
      {way === 'photo' && (
        <PhotoPick
          name={`reading ${JSON.stringify(sample.of)} ${String(two)}`}
          take="Save reading"
          wanted={two ? ['over black', 'over white'] : ['the dab']}
          onPicked={([first, second]) =>
            onKeep({
              source: 'photo',
              ...(two && first && second ? { over: [{ lab: first }, { lab: second }] } : {}),
              ...(!two && first ? { thick: { lab: first } } : {}),
            })
          }
        />
      )}
      {problem && <TroubleLine>{problem}</TroubleLine>}
    </section>
  );
}

function ByReader({ practice, sample, onKeep }: Pick<Props, 'sample' | 'onKeep'> & { practice: boolean }) {
  const calls = useReadingCalls();
  const [read, setRead] = useState<ReadOut>();
  const [trouble, setTrouble] = useState<string>();
  const [smeared, setSmeared] = useState(false);

  const ask = async () => {
    try {
      setTrouble(undefined);
      setRead(await calls.read({ ...sample, smeared }));
    } catch (error) {
      setTrouble(why(error));
    }
  };
  const calibrate = async () => {
    try {
      await calls.calibrate();
      setSmeared(false);
      setTrouble(undefined);
    } catch (error) {
      setTrouble(why(error));
    }
  };
  const keep = () =>
    read &&
    onKeep({
      source: 'reader',
      device: read.device,
      ...(read.thick ? { thick: read.thick } : {}),
      ...(read.drawdown ? { over: [read.drawdown.over_black, read.drawdown.over_white] } : {}),
    });

  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <button type="button" className={`press ${read ? 'press-plain' : 'press-ink'}`} onClick={ask}>
          <ScanLine size={20} aria-hidden /> {read ? 'Read it again' : 'Read it'}
        </button>
        <p className="min-w-60 flex-1 text-sm">
          <b>Simulated reader.</b>{' '}
          {practice
            ? 'It knows nothing of your paint: what it reads is made up, marked as practice, and not counted when predictions are checked. Undo takes it out again.'
            : 'No device is connected, so it reads an invented paint in place of yours. Use it to try the test.'}
        </p>
      </div>
      <Checkbox className="text-sm" checked={smeared} onChange={(on) => setSmeared(on)}>
        Simulate a dirty lens
      </Checkbox>
      {trouble && (
        <div className="flex flex-wrap items-center gap-3">
          <TroubleLine className="min-w-60 flex-1">{trouble}</TroubleLine>
          <button type="button" className="press press-plain" onClick={calibrate}>
            Calibrate on the white tile
          </button>
        </div>
      )}
      {read && (
        <div className="flex items-center gap-4">
          <span role="img" aria-label={`Read: ${read.hex.join(' and ')}`} className="flex">
            {keyed(read.hex, (hex) => hex).map(({ key, item: hex }) => (
              <span key={key} className="h-16 w-24" style={{ background: hex }} />
            ))}
          </span>
          <button type="button" className="press press-ink" onClick={keep}>
            {' '}
            Save reading
          </button>
        </div>
      )}
    </div>
  );
}

function ByTyping({ two, onKeep }: Pick<Props, 'two' | 'onKeep'>) {
  const [first, setFirst] = useState<Colour | null>(null);
  const [second, setSecond] = useState<Colour | null>(null);
  const measured = (colour: Colour): Measured => ({ lab: colour.lab ?? null, hex: colour.hex ?? null });
  const whole = first && (!two || second);
  return (
    <div className="grid gap-3">
      <div className={`grid gap-4 ${two ? 'sm:grid-cols-2' : ''}`}>
        <ColourField
          label={two ? 'Over black' : 'What your reader says'}
          colour={null}
          onChange={setFirst}
          problem={undefined}
          pointer="/thick"
        />
        {two && (
          <ColourField
            label="Over white"
            colour={null}
            onChange={setSecond}
            problem={undefined}
            pointer="/thick"
          />
        )}
      </div>
      <button
        type="button"
        className="press press-ink justify-self-start"
        disabled={!whole}
        onClick={() =>
          first &&
          onKeep({
            source: 'reader',
            ...(two && second ? { over: [measured(first), measured(second)] } : { thick: measured(first) }),
          })
        }
      >
        Keep this reading
      </button>
    </div>
  );
}
