import { Columns2, Columns3, Download, SquareSplitHorizontal } from 'lucide-react';
import { useState } from 'react';
import type { Board, StripPrediction } from '../../api/client';
import { useInLights, useLook } from '../../light/light';
import { FullScreen } from '../../parts/FullScreen';
import { BY_THE_WINDOW, Lamp, type Lit } from '../../parts/Lamp';
import { LookClosely } from '../../parts/LookClosely';
import { Segments } from '../../parts/Segments';
import { Slide } from '../../parts/Slide';
import { pictureAddress } from '../../state/boards';
import { Picture } from './Picture';
import { Strips } from './Strips';

/** Width of a board that fills the screen, pixels, and how much closer it is drawn at its own scale: marks have no finer detail. */
const LARGE = 1440;
const FINEST = 2;

/** A toggle that is on. */
const HELD = 'press-plain outline-2 -outline-offset-2 outline-ink';

interface Props {
  /** Its address for the record is by its id. */
  board: string;
  entry: Board;
  letter: string;
  onChoose: (letter: string) => void;
  onChange: (entry: Board) => void;
  strip: StripPrediction | undefined;
  /** How many layers the strip has, and how many are on; all where undefined. */
  count: number;
  step: number | undefined;
  onStep: (step: number | undefined) => void;
  /** The layer that is opened: its own before and after are asked for. */
  open: string | undefined;
  /** True where something else needs the room. */
  small: boolean;
}

/** The board as it will look: strip by strip, and layer by layer. */
export function View(props: Props) {
  const { entry, letter, strip, count, step, onStep, open, small } = props;
  const look = useLook();
  useInLights(strip?.lights);
  const [lit, setLit] = useState(BY_THE_WINDOW);
  const [all, setAll] = useState(false);
  const [split, setSplit] = useState<number>();
  const on = step ?? count;
  const opened = strip?.layers.findIndex(({ id }) => id === open) ?? -1;
  const after = opened < 0 ? on : opened + 1;
  const several = entry.strips.length > 1;
  const drawn = { entry, letter, lit, small, width: 840 };
  const together = all && several;
  const comparing = split !== undefined && after > 0 && !together;
  const technique = (layers: number) => strip?.layers[layers - 1]?.technique ?? '';
  return (
    <div className="grid gap-1">
      <Strips entry={entry} letter={letter} onChoose={props.onChoose} onChange={props.onChange}>
        {several && (
          <>
            <button
              type="button"
              className={`press px-0 ${all ? HELD : 'press-bare'}`}
              aria-pressed={all}
              aria-label="Side by side"
              title="All strips side by side"
              onClick={() => setAll(!all)}
            >
              <Columns3 size={20} aria-hidden />
            </button>
            <TwoStrips entry={entry} letter={letter} lit={lit} />
          </>
        )}
        <a
          className="press press-bare px-0"
          aria-label="Save the picture"
          title="Save the picture"
          href={pictureAddress(props.board, look, { strip: letter, all: together })}
          download={`${entry.name}.png`}
        >
          <Download size={20} aria-hidden />
        </a>
        <FullScreen title={`${entry.name}, strip ${letter}`}>
          <LookClosely ratio={2} most={4}>
            {(at) => (
              <Picture
                {...drawn}
                small={false}
                layers={step}
                all={together}
                width={Math.round(LARGE * Math.min(1, FINEST / at.closer))}
                at={at}
              />
            )}
          </LookClosely>
        </FullScreen>
      </Strips>
      <div className="relative">
        <Picture {...drawn} layers={comparing ? after : step} all={together} />
        {comparing && (
          <div className="absolute inset-0" style={{ clipPath: `inset(0 ${100 - split}% 0 0)` }}>
            <Picture {...drawn} layers={after - 1} all={false} />
          </div>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-x-3">
        {!comparing ? (
          <>
            <Slide
              label="Layers that are on"
              shown={on === 0 ? 'none: the bare ground' : `${on} of ${count}, up to ${technique(on)}`}
              value={on}
              from={0}
              to={Math.max(count, 1)}
              step={1}
              onShow={(next) => onStep(next === count ? undefined : next)}
              className="min-w-32 flex-1"
            />
            <p role="status" className="w-48 truncate text-sm">
              {on === 0 ? 'The bare ground' : on === count ? 'All layers' : `Up to: ${technique(on)}`}
            </p>
          </>
        ) : (
          <>
            <Slide
              label="Divider between before and after"
              shown={`${split} % before ${technique(after)}`}
              value={split}
              from={0}
              to={100}
              step={1}
              onShow={setSplit}
              className="min-w-32 flex-1"
            />
            <p role="status" className="w-48 truncate text-sm">
              Before | after: {technique(after)}
            </p>
          </>
        )}
        <button
          type="button"
          className={`press text-sm ${split === undefined ? 'press-bare' : HELD}`}
          aria-pressed={split !== undefined}
          disabled={after === 0 || together}
          onClick={() => setSplit(split === undefined ? 50 : undefined)}
        >
          <SquareSplitHorizontal size={18} aria-hidden /> Before and after
        </button>
        <Lamp lit={lit} onChange={setLit} />
      </div>
    </div>
  );
}

/** Two strips that touch, on the whole screen. */
function TwoStrips({ entry, letter, lit }: { entry: Board; letter: string; lit: Lit }) {
  const others = entry.strips.filter((strip) => strip.letter !== letter);
  const [chosen, setChosen] = useState<string>();
  const other = others.find((strip) => strip.letter === chosen)?.letter ?? others[0]?.letter ?? letter;
  return (
    <FullScreen
      title={`Strip ${letter} beside strip ${other}`}
      trigger={
        <button
          type="button"
          className="press press-bare px-0"
          aria-label="Compare two strips"
          title="Compare two strips"
        >
          <Columns2 size={20} aria-hidden />
        </button>
      }
    >
      <div className="flex min-h-0 flex-1 flex-col">
        <div className="flex min-h-0 flex-1">
          {[letter, other].map((one) => (
            <div key={one} className="flex min-w-0 flex-1 overflow-hidden *:h-full *:w-full">
              <Picture
                entry={entry}
                letter={one}
                layers={undefined}
                lit={lit}
                all={false}
                small={false}
                width={1440}
              />
            </div>
          ))}
        </div>
        {others.length > 1 && (
          <div className="flex min-h-14 items-center justify-end gap-3 px-4">
            <Segments
              label="The other strip"
              choices={others.map((strip) => ({ id: strip.letter, name: `Strip ${strip.letter}` }))}
              value={other}
              onChange={setChosen}
            />
          </div>
        )}
      </div>
    </FullScreen>
  );
}
