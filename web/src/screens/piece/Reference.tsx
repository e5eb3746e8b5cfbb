import { ArrowLeft, PanelsTopLeft, Target } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { type PieceKept, Problem } from '../../api/client';
import { PhotoFile } from '../../common/PhotoFile';
import { PhotoSpots } from '../../common/PhotoSpots';
import { CARDS, usePhotoInWork } from '../../common/usePhotoInWork';
import { IsItTheCard } from '../../parts/IsItTheCard';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction } from '../../parts/useAction';
import { Waiting } from '../../parts/Waiting';
import { useBoardCalls } from '../../state/boards';
import { useCamera } from '../../state/camera';
import { type OfPhoto, usePhotoPalette } from '../../state/files';
import { briefOf, usePieceCalls } from '../../state/piece';
import { useUnsent } from '../../state/unsaved';
import { usePiece } from '../../state/workspace';
import { PhotoColours } from './PhotoColours';

/** What is wrong with where the card is said to lie, or with the rest. */
const wrongAt = (error: Error) =>
  (error instanceof Problem && (error.at('/card_at') ?? error.at('/card'))) || error.message;

interface Asked {
  of?: OfPhoto;
  /** Which of its colours, by number. */
  picked?: number[];
}

const NOTHING: Asked = {};

/** From a photo to its colours, their recipes, and a board begun from them. */
export function Reference() {
  const piece = usePiece().data;
  if (!piece) return <Waiting rows={8} />;
  return <FromPhoto piece={piece} />;
}

function FromPhoto({ piece }: { piece: PieceKept }) {
  const boards = useBoardCalls();
  const pieces = usePieceCalls(piece.id);
  const go = useNavigate();
  const { attempt, busy } = useAction();
  const { example } = useCamera();
  const { photo, spots, card, placed, ...work } = usePhotoInWork(`of ${piece.id}`, 0);
  const [{ of: wanted, picked }, ask, forget] = useUnsent<Asked>(`photo colours of ${piece.id}`, NOTHING);
  // Of the photo that is still there.
  const asked = photo && wanted?.id === photo.id ? wanted : undefined;
  const [unread, setUnread] = useState<string>();
  const found = usePhotoPalette(asked);
  const palette = asked && !found.isError ? found.data : undefined;
  // All that can be mixed, until the painter says which.
  const chosen = picked ?? palette?.colours.flatMap(({ recipe }, n) => (recipe ? [n] : [])) ?? [];
  const wrong = unread ?? work.lost ?? (asked && found.error ? wrongAt(found.error) : undefined);

  const bring = (file: File | Promise<File>) =>
    attempt(
      'Couldn’t read the photo',
      async () => {
        await work.bring(await file);
        forget();
        setUnread(undefined);
      },
      (problem) => setUnread(problem.at('/photo') ?? problem.message),
    );
  const chooseCard = (next: string) => {
    work.chooseCard(next);
    forget();
  };
  const find = () => {
    const [spot] = spots;
    if (photo && spot) ask({ of: { id: photo.id, card, spot } });
    setUnread(undefined);
  };
  const taken = palette?.colours.filter((_, n) => chosen.includes(n)) ?? [];
  const aim = () =>
    attempt('Couldn’t save the colours', async () => {
      const brief = briefOf(piece.entry);
      const targets = [...(brief.targets ?? []), ...taken.map(({ hex }) => ({ hex }))].slice(-8);
      await pieces.saved(
        await pieces.change({ ...piece.entry, brief: { ...brief, targets } }, piece.revision),
      );
      void go('/piece');
    });
  const begin = () =>
    attempt('Couldn’t create the board', async () => {
      const layers = taken.flatMap(({ layer }) => (layer ? [layer] : []));
      const ground = piece.entry.ground?.kind ?? 'red-stain';
      const board = await boards.make('From a photo', ground, null, null, layers);
      void go(`/board/${board.id}`);
    });

  return (
    <div className="flex flex-col gap-4 px-4 pt-1 pb-6 lg:h-full lg:flex-row">
      <section aria-label="The photo" className="grid min-w-0 flex-1 content-start gap-3 lg:overflow-auto">
        <div className="flex flex-wrap items-center gap-3">
          <Link to="/piece" className="press press-bare text-sm">
            <ArrowLeft size={18} aria-hidden /> The piece
          </Link>
          <h1 className="text-2xl">Colours from a photo</h1>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <PhotoFile
            name={photo ? 'Another photo' : 'Choose a photo'}
            onChosen={(file) => void bring(file)}
          />
          <Segments label="Card in the photo" choices={CARDS} value={card} onChange={chooseCard} />
          {photo && placed && (
            <button
              type="button"
              className={`press ${palette ? 'press-plain' : 'press-ink'}`}
              disabled={busy}
              onClick={find}
            >
              Find its colours
            </button>
          )}
        </div>
        {!photo && <Example onTry={() => void bring(example())} />}
        {photo && (
          <>
            {!placed && <IsItTheCard proposed={photo.proposed} onYes={work.confirm} />}
            <PhotoSpots
              url={photo.url}
              ratio={photo.ratio}
              names={['the card']}
              spots={spots}
              placing={0}
              onPlacing={() => {}}
              onMove={(i, x, y) => {
                work.move(i, x, y);
                // What was found by the card elsewhere holds no more.
                forget();
              }}
              marks={palette?.colours.map(({ at: [x = 0, y = 0] }) => ({ x, y }))}
            />
          </>
        )}
        {asked && !palette && !wrong && (
          <p role="status" className="text-soft">
            Looking for its colours
          </p>
        )}
        {wrong && <TroubleLine>{wrong}</TroubleLine>}
      </section>
      {palette && (
        <section
          aria-label="Its colours"
          className="grid shrink-0 content-start gap-3 lg:w-104 lg:overflow-auto"
        >
          <PhotoColours
            palette={palette}
            chosen={chosen}
            onChosen={(picked) => ask({ ...(wanted ? { of: wanted } : {}), picked })}
          />
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="press press-ink"
              disabled={busy || taken.length === 0}
              onClick={() => void begin()}
            >
              <PanelsTopLeft size={18} aria-hidden /> Create board
            </button>
            <button
              type="button"
              className="press press-plain"
              disabled={busy || taken.length === 0}
              onClick={() => void aim()}
            >
              <Target size={18} aria-hidden /> Set as targets
            </button>
          </div>
        </section>
      )}
    </div>
  );
}

/** What to photograph, and an invented photo of it to try. */
function Example({ onTry }: { onTry: () => void }) {
  return (
    <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,1fr)_18rem]">
      <img
        src="/api/example-photo"
        alt="Example: an aged blue door, with a white card at the bottom left"
        className="aspect-3/2 w-full bg-panel object-cover object-bottom-left"
      />
      <div className="grid gap-4">
        <p>Photograph a wall, a fabric or an old chest with a white or grey card in the same light.</p>
        <p>
          You get its main colours, with shade and grime set apart, and a recipe from your shelf for each.
        </p>
        <button type="button" className="press press-plain justify-self-start" onClick={onTry}>
          Try it with this example
        </button>
      </div>
    </div>
  );
}
