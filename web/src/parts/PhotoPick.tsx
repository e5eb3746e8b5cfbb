import { type KeyboardEvent, type MouseEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { type Spot, usePhotos } from '../state/files';
import { keyed } from './keyed';
import { PhotoFile } from './PhotoFile';
import { Segments } from './Segments';
import { why } from './useDeed';

type Lab = [number, number, number];

const CARDS = [
  { id: 'white', name: 'White card' },
  { id: 'grey', name: 'Grey card' },
] as const;

/** Radius of a spot, in widths of the photo, and how far an arrow key moves it. */
const RADIUS = 0.025;
const STEP = 0.01;

interface Props {
  /** What is to be picked, by name. */
  wanted: string[];
  /** What the button that takes the colours says. */
  take: string;
  /** The colours, and what a screen shows for them. */
  onPicked: (colours: Lab[], hexes: string[]) => void;
}

/** Colours picked from a photo that holds a white or grey card: spots are put down by a tap, dragged, or moved with the arrow keys. */
export function PhotoPick({ wanted, take, onPicked }: Props) {
  const calls = usePhotos();
  const [photo, setPhoto] = useState<{ id: string; url: string; ratio: number }>();
  const [card, setCard] = useState<string>('white');
  const [spots, setSpots] = useState<Spot[]>([]);
  const [picked, setPicked] = useState<{ colours: { lab: number[]; hex: string }[]; warnings: string[] }>();
  const [trouble, setTrouble] = useState<string>();
  const [placing, setPlacing] = useState(0);
  const names = ['the card', ...wanted];

  useEffect(() => () => void (photo && URL.revokeObjectURL(photo.url)), [photo]);

  const say = (error: unknown) => setTrouble(why(error));

  const choose = async (chosen: File) => {
    setTrouble(undefined);
    setPicked(undefined);
    try {
      const { id, width, height } = await calls.bring(chosen);
      setPhoto({ id, url: URL.createObjectURL(chosen), ratio: height / width });
      setPlacing(0);
      setSpots(
        names.map((_, i) => ({ x: (i + 1) / (names.length + 1), y: height / width / 2, radius: RADIUS })),
      );
    } catch (error) {
      setPhoto(undefined);
      say(error);
    }
  };

  const move = (i: number, x: number, y: number) => {
    if (!photo) return;
    const inside = (v: number, most: number) => Math.min(most, Math.max(0, v));
    setPicked(undefined);
    setSpots((old) =>
      old.map((spot, j) => (j === i ? { ...spot, x: inside(x, 1), y: inside(y, photo.ratio) } : spot)),
    );
  };

  /** Where the photo is tapped the spot is put whose turn it is. */
  const put = (event: MouseEvent<HTMLElement>) => {
    const frame = event.currentTarget.getBoundingClientRect();
    move(placing, (event.clientX - frame.left) / frame.width, (event.clientY - frame.top) / frame.width);
    setPlacing((placing + 1) % names.length);
  };

  const look = async () => {
    const [at, ...others] = spots;
    if (!photo || !at) return;
    try {
      setTrouble(undefined);
      setPicked(await calls.pick(photo.id, card, at, others));
    } catch (error) {
      setPicked(undefined);
      say(error);
    }
  };

  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <PhotoFile name={photo ? 'Another photo' : 'Choose a photo'} onChosen={(file) => void choose(file)} />
        <Segments label="Card in the photo" choices={CARDS} value={card} onChange={setCard} />
      </div>
      {!photo && (
        <p className="text-sm text-soft">
          Lay a white or grey card beside the dry dab, in one light and out of glare, and take both in one
          photo.
        </p>
      )}
      {photo && (
        <>
          <Segments
            label="Tap the photo on"
            choices={names.map((name, i) => ({ id: String(i), name: `Tap ${name}` }))}
            value={String(placing)}
            onChange={(i) => setPlacing(Number(i))}
            className="flex flex-wrap"
          />
          <div className="relative overflow-hidden" data-photo>
            {/* biome-ignore lint/a11y/useKeyWithClickEvents: by keys the spots themselves are moved */}
            <img
              src={photo.url}
              alt="Your sample with the card"
              className="block w-full cursor-crosshair"
              draggable={false}
              onClick={put}
            />
            {spots.map((spot, i) => (
              <SpotHandle
                key={names[i]}
                name={names[i] ?? ''}
                spot={spot}
                ratio={photo.ratio}
                onMove={(x, y) => move(i, x, y)}
              />
            ))}
          </div>
        </>
      )}
      {trouble && (
        <p role="alert" className="font-medium text-alarm first-letter:uppercase">
          {trouble}
        </p>
      )}
      {photo && (
        <div className="flex flex-wrap items-center gap-4">
          <button type="button" className={`press ${picked ? 'press-plain' : 'press-ink'}`} onClick={look}>
            Pick the colour
          </button>
          {picked && (
            <>
              <span
                className="flex"
                role="img"
                aria-label={`Picked: ${picked.colours.map((c) => c.hex).join(' and ')}`}
              >
                {keyed(picked.colours, ({ hex }) => hex).map(({ key, item: colour }) => (
                  <span key={key} className="h-12 w-20" style={{ background: colour.hex }} />
                ))}
              </span>
              <button
                type="button"
                className="press press-ink"
                onClick={() =>
                  onPicked(
                    picked.colours.map((colour) => colour.lab as Lab),
                    picked.colours.map((colour) => colour.hex),
                  )
                }
              >
                {take}
              </button>
            </>
          )}
        </div>
      )}
      {picked?.warnings.map((warning) => (
        <p key={warning} role="alert" className="text-sm font-semibold">
          {warning}.
        </p>
      ))}
    </div>
  );
}

interface SpotProps {
  name: string;
  spot: Spot;
  ratio: number;
  onMove: (x: number, y: number) => void;
}

/** A ring that says what lies in it. */
function SpotHandle({ name, spot, ratio, onMove }: SpotProps) {
  const held = useRef(false);
  const drag = (event: PointerEvent<HTMLButtonElement>) => {
    const frame = event.currentTarget.closest('[data-photo]')?.getBoundingClientRect();
    if (!held.current || !frame) return;
    onMove((event.clientX - frame.left) / frame.width, (event.clientY - frame.top) / frame.width);
  };
  const key = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[
      event.key
    ];
    if (!step) return;
    event.preventDefault();
    onMove(spot.x + (step[0] ?? 0), spot.y + (step[1] ?? 0));
  };
  return (
    <button
      type="button"
      aria-label={`Spot on ${name}: move it with the arrow keys`}
      onPointerDown={(event) => {
        held.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={drag}
      onPointerUp={() => {
        held.current = false;
      }}
      onKeyDown={key}
      className="absolute size-11 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-full border-3 border-white shadow-[0_0_0_2px_var(--color-ink)]"
      style={{ left: `${spot.x * 100}%`, top: `${(spot.y / ratio) * 100}%` }}
    >
      <span className="pointer-events-none absolute left-1/2 top-full mt-1 -translate-x-1/2 rounded-xs bg-ink px-1.5 text-xs whitespace-nowrap text-white">
        {name}
      </span>
    </button>
  );
}
