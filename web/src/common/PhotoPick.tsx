import { useState } from 'react';
import { Problem } from '../api/client';
import { IsItTheCard } from '../parts/IsItTheCard';
import { keyed } from '../parts/keyed';
import { Segments } from '../parts/Segments';
import { TroubleLine } from '../parts/TroubleLine';
import { why } from '../parts/useAction';
import { usePhotos } from '../state/files';
import { PhotoFile } from './PhotoFile';
import { PhotoSpots } from './PhotoSpots';
import { CARDS, usePhotoInWork } from './usePhotoInWork';

type Lab = [number, number, number];

interface Props {
  /** What it is for: under this name the photo is there again after another screen or a reload. */
  name: string;
  /** What is to be picked, by name. */
  wanted: string[];
  /** What the button that takes the colours says. */
  take: string;
  /** The colours, and what a screen shows for them; answers whether they were taken. */
  onPicked: (colours: Lab[], hexes: string[]) => boolean | Promise<boolean>;
}

/** Colours picked from a photo that holds a white or grey card: spots are set down by a tap, dragged, or moved with the arrow keys. */
export function PhotoPick({ name, wanted, take, onPicked }: Props) {
  const calls = usePhotos();
  const { photo, spots, card, placed, ...work } = usePhotoInWork(name, wanted.length);
  const [picked, setPicked] = useState<{ colours: { lab: number[]; hex: string }[]; warnings: string[] }>();
  const [trouble, setTrouble] = useState<string>();
  const [placing, setPlacing] = useState(0);
  const names = ['the card', ...wanted];

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
      await work.bring(chosen);
      setPicked(undefined);
      setPlacing(0);
    } catch (error) {
      // The one before is still there.
      say(error);
    }
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
        <Segments
          label="Card in the photo"
          choices={CARDS}
          value={card}
          onChange={(next) => {
            setPicked(undefined);
            work.chooseCard(next);
          }}
        />
      </div>
      {work.lost && <TroubleLine>{work.lost}</TroubleLine>}
      {!photo && (
        <p className="text-sm text-soft">
          Photograph the dry dab next to a white or grey card, in the same light and out of glare.
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
          onMove={(i, x, y) => {
            setPicked(undefined);
            work.move(i, x, y);
          }}
        />
      )}
      {trouble && <TroubleLine>{trouble}</TroubleLine>}
      {photo && !placed && <IsItTheCard proposed={photo.proposed} onYes={work.confirm} />}
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
                onClick={async () => {
                  const taken = await onPicked(
                    picked.colours.map((colour) => colour.lab as Lab),
                    picked.colours.map((colour) => colour.hex),
                  );
                  if (taken) work.clear();
                }}
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
