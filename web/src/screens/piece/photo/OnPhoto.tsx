import { ArrowLeft, Move, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Piece, PieceKept, PiecePhoto } from '../../../api/client';
import { Conflict } from '../../../common/Conflict';
import { PhotoFile } from '../../../common/PhotoFile';
import { Segments } from '../../../parts/Segments';
import { TroubleLine } from '../../../parts/TroubleLine';
import { useAction } from '../../../parts/useAction';
import { Failed, Waiting } from '../../../parts/Waiting';
import { usePhotos } from '../../../state/files';
import { hasFront, usePhotoOfPiece } from '../../../state/onPhoto';
import { usePieceCalls } from '../../../state/piece';
import { usePlace } from '../../../state/unsaved';
import { type Draft, useDraft } from '../../../state/useDraft';
import { usePiece } from '../../../state/workspace';
import { Elevation } from '../Elevation';
import { chosenOf } from '../entry';
import { BEFORE_IT } from '../FromCorner';
import { Marks } from './Marks';
import { Shown } from './Shown';

/** The piece at hand on photos of it. */
export function OnPhoto() {
  const piece = usePiece();
  if (piece.isError && !piece.data) return <Failed error={piece.error} retry={() => piece.refetch()} />;
  if (!piece.data) return <Waiting rows={8} />;
  return <Photos key={piece.data.id} piece={piece.data} />;
}

function Photos({ piece }: { piece: PieceKept }) {
  const calls = usePieceCalls(piece.id);
  const draft = useDraft<Piece, PieceKept>(piece, calls.put, calls.get, calls.saved);
  const { entry } = draft;
  const photos = entry.photos ?? [];
  const [at, setAt] = usePlace(`piece ${piece.id} photo`, 0);
  /** The photo whose marks are being set. */
  const [marking, setMarking] = useState<string>();
  const [trouble, setTrouble] = useState<string>();
  const { keep } = usePhotos();
  const { attempt, busy } = useAction();
  const n = Math.min(at, photos.length - 1);
  const photo = photos[n];
  const isMarked = photo !== undefined && hasFront(photo) && marking !== photo.photo;

  const bring = (file: File) =>
    attempt(
      'Couldn’t add the photo',
      async () => {
        const { id } = await keep(file);
        setTrouble(undefined);
        draft.change((now) => ({
          ...now,
          photos: [...(now.photos ?? []), { photo: id, faces: [], hidden: [] }],
        }));
        setAt(photos.length);
      },
      (problem) => setTrouble(problem.at('/photo') ?? problem.message),
    );
  const replaced = (now: Piece, next: PiecePhoto): Piece => ({
    ...now,
    photos: (now.photos ?? []).map((old, i) => (i === n ? next : old)),
  });
  const remove = () =>
    draft.change((now) => ({ ...now, photos: (now.photos ?? []).filter((_, i) => i !== n) }));

  return (
    <div className="flex flex-col gap-3 px-4 pt-1 pb-6 lg:h-full">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Link to="/piece" className="press press-bare text-sm">
          <ArrowLeft size={18} aria-hidden /> The piece
        </Link>
        <h1 className="text-2xl">On a photo</h1>
        <div className="flex-1" />
        {photos.length > 1 && (
          <Segments
            label="Photo"
            choices={photos.map((_, i) => ({ id: String(i), name: `Photo ${i + 1}` }))}
            value={String(n)}
            onChange={(id) => setAt(Number(id))}
          />
        )}
        {isMarked && (
          <button
            type="button"
            className="press press-bare px-2 text-sm"
            onClick={() => setMarking(photo.photo)}
          >
            <Move size={18} aria-hidden /> Move the marks
          </button>
        )}
        {photos.length < 6 && (
          <PhotoFile
            name={photo ? 'Another photo' : 'Choose a photo'}
            onChosen={(file) => void bring(file)}
          />
        )}
        {photo && (
          <button type="button" className="press press-bare px-2 text-sm" disabled={busy} onClick={remove}>
            <Trash2 size={18} aria-hidden /> Remove photo
          </button>
        )}
      </div>
      {draft.conflict && <Conflict what="piece" conflict={draft.conflict} />}
      {(trouble ?? draft.problem?.message) && <TroubleLine>{trouble ?? draft.problem?.message}</TroubleLine>}
      {!entry.form ? (
        <p>
          First say{' '}
          <Link to="/piece" className="underline underline-offset-2">
            what the piece is and how large
          </Link>
          .
        </p>
      ) : photo ? (
        <OnePhoto
          key={photo.photo}
          piece={piece.id}
          draft={draft}
          n={n}
          photo={photo}
          isMarked={isMarked}
          onChange={(next) => {
            setMarking(photo.photo);
            draft.change((now) => replaced(now, next));
          }}
          onDone={() => setMarking(undefined)}
        />
      ) : (
        <Nothing entry={entry} />
      )}
    </div>
  );
}

/** What to photograph: the piece as a photo should show it. */
function Nothing({ entry }: { entry: Piece }) {
  return (
    <div className="grid max-w-5xl items-center gap-6 lg:grid-cols-[3fr_2fr]">
      <Elevation entry={entry} scheme={chosenOf(entry)} view="corner" turned={BEFORE_IT} />
      <div className="grid gap-3">
        <p className="text-lg">See the finish on the piece itself.</p>
        <p>
          Photograph it like this: all of it, from a corner, without flash. Have somebody hold a white or grey
          card flat against the front. The colours are judged by the card, and it is not seen in the result.
        </p>
        <p className="text-soft">Without a card the colours are only approximate.</p>
      </div>
    </div>
  );
}

interface OneProps {
  piece: string;
  draft: Draft<Piece>;
  n: number;
  photo: PiecePhoto;
  isMarked: boolean;
  onChange: (photo: PiecePhoto) => void;
  onDone: () => void;
}

/** Marking a photo, or the finish on it once its front is marked. */
function OnePhoto({ piece, draft, n, photo, isMarked, onChange, onDone }: OneProps) {
  const { last, error, retry } = usePhotoOfPiece(draft.entry, n);
  if (error && !last) return <Failed error={error} retry={retry} />;
  if (!last) return <Waiting rows={8} />;
  if (isMarked) return <Shown piece={piece} draft={draft} n={n} known={last} />;
  return (
    <Marks
      entry={draft.entry}
      n={n}
      photo={photo}
      known={last}
      problem={draft.problem}
      onChange={onChange}
      onPiece={(change) => draft.change((now) => ({ ...now, ...change }))}
      onDone={onDone}
    />
  );
}
