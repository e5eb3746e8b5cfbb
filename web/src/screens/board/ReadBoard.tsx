import { ScanLine, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import {
  type BoardReadingKept,
  type BoardReadingMade,
  type Colour,
  type Measured,
  Problem,
  type StateName,
  type StripPrediction,
} from '../../api/client';
import { PhotoPick } from '../../common/PhotoPick';
import { useWaysToRead } from '../../common/ReadSample';
import { ColourField } from '../../parts/ColourField';
import { keyed } from '../../parts/keyed';
import { useTell } from '../../parts/Notice';
import { deltaE, onDay } from '../../parts/numbers';
import { PLACE_NAMES } from '../../parts/places';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { NO_ANSWER, why } from '../../parts/useAction';
import { useBoardReadings } from '../../state/boards';
import { useSeeColour } from '../../state/measured';
import { PLACES, type Place } from './entry';

/** Most spots of one reading. */
const SPOTS = 9;

interface Spot {
  place: Place;
  measured: Measured;
  hex: string;
}

interface Props {
  board: string;
  letter: string;
  state: StateName;
  strip: StripPrediction;
}

/** The real board, read at up to nine spots: each beside what was predicted, and what they say of the hand. */
export function ReadBoard({ board, letter, state, strip }: Props) {
  const { readings, ...calls } = useBoardReadings(board);
  const { ways, way, setWay, practice } = useWaysToRead();
  const [spots, setSpots] = useState<Spot[]>([]);
  const [made, setMade] = useState<BoardReadingMade>();
  const [trouble, setTrouble] = useState<string>();
  const full = spots.length >= SPOTS;

  const attempt = async (action: () => Promise<void>) => {
    try {
      setTrouble(undefined);
      await action();
    } catch (error) {
      setTrouble(why(error));
    }
  };
  const add = (more: Spot[]) => {
    setMade(undefined);
    setSpots((spots) => [...spots, ...more].slice(0, SPOTS));
  };
  const read = (place: Place) =>
    attempt(async () => {
      const { measured, hex } = await calls.read(letter, place, state);
      add([{ place, measured, hex }]);
    });
  const learn = () =>
    attempt(async () => {
      const source = way === 'photo' ? 'photo' : 'reader';
      setMade(await calls.make({ strip: letter, state, source, spots, note: null }));
      setSpots([]);
    });

  return (
    <section aria-label="Read the real board" className="grid gap-3 rounded bg-panel p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-base font-semibold">Read the strip {letter} you painted</h2>
        <Segments label="How to read it" choices={ways} value={way} onChange={setWay} />
      </div>
      <ul
        aria-label="Predicted and read"
        className={`grid gap-px ${way === 'type' ? 'sm:max-xl:grid-cols-3' : 'sm:grid-cols-3'}`}
      >
        {PLACES.map((place) => (
          <li key={place} className="grid content-start gap-2">
            <Compared
              place={place}
              predicted={strip.places.find((one) => one.place === place)?.seen.hex}
              spots={spots.filter((spot) => spot.place === place)}
              onTakeBack={(spot) => setSpots(spots.filter((one) => one !== spot))}
            />
            {way === 'reader' && (
              <button
                type="button"
                className="press press-plain mr-px text-sm"
                disabled={full}
                onClick={() => read(place)}
              >
                <ScanLine size={18} aria-hidden /> Read{' '}
                <span className="sr-only">the {PLACE_NAMES[place]}</span>
              </button>
            )}
            {way === 'type' && <Typed place={place} full={full} onAdd={(spot) => add([spot])} />}
          </li>
        ))}
      </ul>
      {way === 'reader' && (
        <p className="text-sm text-soft">
          Simulated reader: no device is connected, so it reads this strip as an invented painter would have
          made it.{practice && ' What it reads says nothing about your own board.'}
        </p>
      )}
      {way === 'photo' && (
        <PhotoPick
          name={`board ${board} ${letter}`}
          take="Use these three"
          wanted={PLACES.map((place) => `the ${PLACE_NAMES[place]}`)}
          onPicked={(labs, hexes) => {
            add(
              PLACES.flatMap((place, i) => {
                const [lab, hex] = [labs[i], hexes[i]];
                return lab && hex ? [{ place, measured: { lab }, hex }] : [];
              }),
            );
            return true;
          }}
        />
      )}
      {trouble && <TroubleLine>{trouble}</TroubleLine>}
      {spots.length > 0 && (
        <div className="flex flex-wrap items-center gap-3">
          <button type="button" className="press press-ink" onClick={learn}>
            Calibrate to me from {spots.length === 1 ? 'this spot' : `these ${spots.length} spots`}
          </button>
          <p className="text-sm">
            {full
              ? 'Nine spots are the most.'
              : spots.length < 3
                ? 'Read three spots if you can: flat, recess and edge.'
                : ''}
          </p>
        </div>
      )}
      {made && <Learnt made={made} />}
      {readings.length > 0 && (
        <ul aria-label="Readings of this board" className="grid gap-px">
          {readings.map((reading) => (
            <Kept
              key={reading.id}
              reading={reading}
              onSure={() => attempt(() => calls.insist(reading))}
              onRemove={() => attempt(() => calls.remove(reading))}
            />
          ))}
        </ul>
      )}
    </section>
  );
}

interface ComparedProps {
  place: Place;
  predicted: string | undefined;
  spots: Spot[];
  onTakeBack: (spot: Spot) => void;
}

/** What was predicted, touching what was read. */
function Compared({ place, predicted, spots, onTakeBack }: ComparedProps) {
  return (
    <div className="grid gap-1">
      <span className="flex h-14">
        <span
          role="img"
          aria-label={`Predicted on the ${PLACE_NAMES[place]}: ${predicted ?? ''}`}
          className="flex-1"
          style={{ background: predicted }}
        />
        {keyed(spots, ({ hex }) => hex).map(({ key, item: spot }) => (
          <span
            key={key}
            role="img"
            aria-label={`Read on the ${PLACE_NAMES[place]}: ${spot.hex}`}
            className="flex-1"
            style={{ background: spot.hex }}
          />
        ))}
      </span>
      <span className="flex min-h-11 items-center justify-between gap-1 text-sm">
        <span>
          <b className="inline-block font-semibold first-letter:uppercase">{PLACE_NAMES[place]}</b>
          {spots.length > 0 && `: predicted, then ${spots.length} read`}
        </span>
        {spots.length > 0 && (
          <button
            type="button"
            className="press press-bare px-0"
            aria-label={`Remove the last reading of the ${PLACE_NAMES[place]}`}
            onClick={() => {
              const last = spots.at(-1);
              if (last) onTakeBack(last);
            }}
          >
            <X size={18} aria-hidden />
          </button>
        )}
      </span>
    </div>
  );
}

function Typed({ place, full, onAdd }: { place: Place; full: boolean; onAdd: (spot: Spot) => void }) {
  const [colour, setColour] = useState<Colour | null>(null);
  const [problem, setProblem] = useState<Problem>();
  const tell = useTell();
  const see = useSeeColour();
  // The engine says what the screen shows for it, and whether any surface can have it.
  const take = async (typed: Colour) => {
    try {
      const { hex } = await see(typed);
      setProblem(undefined);
      onAdd({ place, measured: { lab: typed.lab ?? null, hex: typed.hex ?? null }, hex });
    } catch (error) {
      if (error instanceof Problem) setProblem(error);
      else tell(`Couldn’t add the reading: ${NO_ANSWER}`);
    }
  };
  return (
    <div className="grid gap-2 pr-2">
      <ColourField
        label={`What was read on the ${PLACE_NAMES[place]}`}
        colour={null}
        onChange={setColour}
        problem={problem}
        pointer=""
      />
      <button
        type="button"
        className="press press-plain text-sm"
        disabled={full || !colour}
        onClick={() => colour && void take(colour)}
      >
        Add it
      </button>
    </div>
  );
}

/** What a reading taught of the hand. */
function Learnt({ made }: { made: BoardReadingMade }) {
  if (made.reading.questioned)
    return (
      <p role="status">
        Not used: too far from anything this strip could be ({made.reading.off.toFixed(1)} standard
        deviations). Another strip, or a dirty lens? If it is right, tap “Use it anyway” below.
      </p>
    );
  return (
    <div role="status" className="grid gap-1">
      <p className="font-display text-lg font-semibold">Your touch on this board</p>
      <ul className="grid gap-x-4 text-sm sm:grid-cols-2">
        {made.hands.map((hand) => (
          <li key={hand.technique}>
            <b className="font-semibold">{hand.name}</b> {hand.words}
          </li>
        ))}
      </ul>
    </div>
  );
}

interface KeptProps {
  reading: BoardReadingKept;
  onSure: () => void;
  onRemove: () => void;
}

/** A reading that is kept: what a usual hand would have made, what was read, what is predicted now. */
function Kept({ reading, onSure, onRemove }: KeptProps) {
  const { spots } = reading;
  return (
    <li className="grid grid-cols-[6rem_minmax(0,1fr)_auto] items-center gap-3 bg-ground py-1 pr-1">
      <span aria-hidden className="flex h-11">
        {keyed(spots, ({ hex }) => hex).map(({ key, item: spot }) => (
          <span key={key} className="flex flex-1 flex-col">
            <span className="flex-1" style={{ background: spot.predicted_hex ?? undefined }} />
            <span className="flex-1" style={{ background: spot.hex }} />
          </span>
        ))}
      </span>
      <span className="min-w-0 text-sm leading-tight">
        <b className="block font-semibold">
          Strip {reading.strip}, {onDay(reading.made_at)}
        </b>
        {reading.questioned ? (
          <span>Not used: too far from anything this strip could be</span>
        ) : (
          <span>
            Off by ΔE00 {deltaE(reading.usual_difference)} for a usual touch, {deltaE(reading.difference)} for
            yours
          </span>
        )}
      </span>
      <span className="flex">
        {reading.questioned && (
          <button type="button" className="press press-plain text-sm" onClick={onSure}>
            {' '}
            Use it anyway
          </button>
        )}
        <button
          type="button"
          className="press press-bare px-0"
          aria-label={`Delete the reading of strip ${reading.strip}`}
          onClick={onRemove}
        >
          <Trash2 size={18} aria-hidden />
        </button>
      </span>
    </li>
  );
}
