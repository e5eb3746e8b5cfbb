import { Pipette } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { FinishOnPhoto, LogEntryView } from '../../api/client';
import { PhotoSpots, RADIUS } from '../../common/PhotoSpots';
import { CARDS } from '../../common/usePhotoInWork';
import { IsItTheCard } from '../../parts/IsItTheCard';
import { deltaE, plainNumber } from '../../parts/numbers';
import { Panel } from '../../parts/Panel';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction } from '../../parts/useAction';
import type { Spot } from '../../state/files';
import { useNoteCalls } from '../../state/log';

const NAMES = ['the card', 'the finish'];

/** The finish on a photo of a piece, read by the card in it and held against what was predicted. */
export function OnPhoto({ entry: { photo, piece, words } }: { entry: LogEntryView }) {
  const [open, setOpen] = useState(false);
  if (!photo || !piece) return null;
  return (
    <>
      <button type="button" className="press press-bare px-2 text-sm" onClick={() => setOpen(true)}>
        <Pipette size={18} aria-hidden /> Compare with the prediction
      </button>
      <Panel open={open} onClose={() => setOpen(false)} title={words} className="w-[min(60rem,94vw)]">
        <ReadFinish photo={photo} piece={piece} />
      </Panel>
    </>
  );
}

function ReadFinish({ photo, piece }: { photo: string; piece: string }) {
  const url = `/api/photos/kept/${photo}`;
  const { readFinish } = useNoteCalls();
  const { attempt, busy } = useAction();
  const [ratio, setRatio] = useState<number>();
  const [card, setCard] = useState<string>('white');
  const [spots, setSpots] = useState<Spot[]>();
  const [placing, setPlacing] = useState(0);
  const [placed, setPlaced] = useState(false);
  const [read, setRead] = useState<FinishOnPhoto>();
  const [trouble, setTrouble] = useState<string>();
  useEffect(() => {
    const picture = new Image();
    picture.onload = () => {
      const high = picture.naturalHeight / picture.naturalWidth;
      setRatio(high);
      const at = (x: number, radius: number) => ({ x, y: high / 2, radius });
      // Of a broken finish so much that its marks even out.
      setSpots([at(0.33, RADIUS), at(0.67, 2 * RADIUS)]);
    };
    picture.onerror = () => setTrouble('The photo cannot be shown: open the log again.');
    picture.src = url;
  }, [url]);
  const move = (i: number, x: number, y: number) => {
    setRead(undefined);
    if (i === 0) setPlaced(true);
    setSpots((old) => old?.map((spot, j) => (j === i ? { ...spot, x, y } : spot)));
  };
  const hold = () =>
    attempt(
      'Couldn’t read the finish',
      async () => {
        setTrouble(undefined);
        const [card_at, finish_at] = spots ?? [];
        if (card_at && finish_at) setRead(await readFinish(piece, { photo, card, card_at, finish_at }));
      },
      (problem) => {
        const [card, finish] = [problem.at('/card_at'), problem.at('/finish_at')];
        setTrouble(card ?? (finish ? `the finish: ${finish}` : problem.message));
      },
    );
  return (
    <div className="grid gap-4 md:grid-cols-[minmax(0,1fr)_20rem]">
      <div className="grid content-start gap-3">
        {ratio && spots && (
          <PhotoSpots
            url={url}
            ratio={ratio}
            names={NAMES}
            spots={spots}
            placing={placing}
            onPlacing={setPlacing}
            onMove={move}
          />
        )}
        {ratio && !placed && <IsItTheCard proposed={false} onYes={() => setPlaced(true)} />}
        {trouble && <TroubleLine>{trouble}</TroubleLine>}
      </div>
      <div className="grid content-start gap-3">
        <Segments
          label="Card in the photo"
          choices={CARDS}
          value={card}
          onChange={(next) => {
            setRead(undefined);
            setCard(next);
          }}
        />
        <button
          type="button"
          className="press press-ink justify-self-start"
          disabled={busy || !spots || !placed}
          onClick={() => void hold()}
        >
          Read the finish
        </button>
        {read ? (
          <Held read={read} />
        ) : (
          <p className="text-sm text-soft">
            Put one spot on the card and the other on the finish, out of glare. The reading is compared with
            how each part should look when finished.
          </p>
        )}
      </div>
    </div>
  );
}

/** What was read beside what was predicted; the two touch. */
function Held({ read }: { read: FinishOnPhoto }) {
  return (
    <>
      {read.warnings.map((warning) => (
        <p key={warning} role="alert" className="text-sm font-semibold">
          {warning}.
        </p>
      ))}
      <ul aria-label="Read and predicted" className="grid gap-px">
        {read.zones.map(({ zone, name, hex, words, difference, held }) => (
          <li key={zone} className="grid grid-cols-[6rem_minmax(0,1fr)] items-stretch gap-3 bg-panel">
            <span aria-hidden className="grid min-h-14 grid-cols-2">
              <span style={{ backgroundColor: read.hex }} />
              <span style={{ backgroundColor: hex }} />
            </span>
            <p className="py-2 pr-2 leading-tight">
              <b className="font-semibold">{name}</b>
              <br />
              <span className="text-sm">
                {held ? 'as predicted, as near as a photo can show' : words}{' '}
                <span className="text-soft">ΔE {deltaE(difference)}</span>
              </span>
            </p>
          </li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        Left: read. Right: predicted, in daylight. Closest first. A photo is good to about ΔE{' '}
        {plainNumber(read.within)}.
      </p>
    </>
  );
}
