import { useEffect, useState } from 'react';
import { Problem } from '../api/client';
import { type Spot, usePhotos } from '../state/files';
import { IsItTheCard } from './IsItTheCard';
import { keyed } from './keyed';
import { PhotoFile } from './PhotoFile';
import { PhotoSpots, RADIUS } from './PhotoSpots';
import { Segments } from './Segments';
import { TroubleLine } from './TroubleLine';
import { why } from './useDeed';

type Lab = [number, number, number];

export const CARDS = [
  { id: 'white', name: 'White card' },
  { id: 'grey', name: 'Grey card' },
] as const;

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
  // Where the card lies is said by a person: what the program takes for it is a proposal.
  const [placed, setPlaced] = useState(false);
  const [proposed, setProposed] = useState(false);
  const names = ['the card', ...wanted];

  useEffect(() => () => void (photo && URL.revokeObjectURL(photo.url)), [photo]);

  /** What is wrong, and with which spot. */
  const say = (error: unknown) => {
    const at = (i: number) =>
      error instanceof Problem ? error.at(i === 0 ? '/card_at' : `/spots/${i - 1}`) : undefined;
    const wrong = names.findIndex((_, i) => at(i) !== undefined);
    // Faults of the card already name it.
    setTrouble(wrong > 0 ? `${names[wrong]}: ${at(wrong)}` : (at(0) ?? why(error)));
  };

  const choose = async (chosen: File) => {
    setTrouble(undefined);
    try {
      const { id, width, height, likely_card } = await calls.bring(chosen);
      setPicked(undefined);
      setPlaced(false);
      setProposed(likely_card != null);
      setPhoto({ id, url: URL.createObjectURL(chosen), ratio: height / width });
      setPlacing(0);
      setSpots(
        names.map((_, i) =>
          i === 0 && likely_card
            ? likely_card
            : { x: (i + 1) / (names.length + 1), y: height / width / 2, radius: RADIUS },
        ),
      );
    } catch (error) {
      // The one before is still there.
      say(error);
    }
  };

  const move = (i: number, x: number, y: number) => {
    setPicked(undefined);
    if (i === 0) setPlaced(true);
    setSpots((old) => old.map((spot, j) => (j === i ? { ...spot, x, y } : spot)));
  };

  const chooseCard = (next: string) => {
    setPicked(undefined);
    setCard(next);
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
        <Segments label="Card in the photo" choices={CARDS} value={card} onChange={chooseCard} />
      </div>
      {!photo && (
        <p className="text-sm text-soft">
          Lay a white or grey card beside the dry dab, in one light and out of glare, and take both in one
          photo.
        </p>
      )}
      {photo && (
        <PhotoSpots
          url={photo.url}
          ratio={photo.ratio}
          names={names}
          spots={spots}
          placing={placing}
          onPlacing={setPlacing}
          onMove={move}
        />
      )}
      {trouble && <TroubleLine>{trouble}</TroubleLine>}
      {photo && !placed && <IsItTheCard proposed={proposed} onYes={() => setPlaced(true)} />}
      {photo && placed && (
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
