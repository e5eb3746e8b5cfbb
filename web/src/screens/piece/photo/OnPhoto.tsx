import { ArrowLeft, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Form, Piece, PieceKept, PiecePhoto } from '../../../api/client';
import { Conflict } from '../../../common/Conflict';
import { PhotoFile } from '../../../common/PhotoFile';
import { Segments } from '../../../parts/Segments';
import { TroubleLine } from '../../../parts/TroubleLine';
import { useAction } from '../../../parts/useAction';
import { Failed, Waiting } from '../../../parts/Waiting';
import { usePhotos } from '../../../state/files';
import { usePhotoOfPiece } from '../../../state/onPhoto';
import { usePieceCalls } from '../../../state/piece';
import { usePlace } from '../../../state/unsaved';
import { useDraft } from '../../../state/useDraft';
import { usePiece } from '../../../state/workspace';
import { chosenOf } from '../entry';
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
  const [trouble, setTrouble] = useState<string>();
  const { keep } = usePhotos();
  const { attempt, busy } = useAction();
  const n = Math.min(at, photos.length - 1);
  const photo = photos[n];

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
          entry={entry}
          n={n}
          photo={photo}
          onChange={(next) => draft.change((now) => replaced(now, next))}
          onForm={(form) => draft.change((now) => ({ ...now, form }))}
        />
      ) : (
        <Nothing />
      )}
    </div>
  );
}

/** What to photograph. */
function Nothing() {
  return (
    <div className="grid max-w-160 gap-3">
      <p className="text-lg">See the finish on the piece itself.</p>
      <p>
        Photograph it from a corner, all of it, without flash. Have somebody hold a white or grey card flat
        against the front: the colours are judged by it, and it is not seen in the result.
      </p>
    </div>
  );
}

interface OneProps {
  entry: Piece;
  n: number;
  photo: PiecePhoto;
  onChange: (photo: PiecePhoto) => void;
  onForm: (form: Form) => void;
}

/** Marking a photo, or the finish on it once its front is marked. */
function OnePhoto({ entry, n, photo, onChange, onForm }: OneProps) {
  const { last, error, retry } = usePhotoOfPiece(entry, n);
  const isMarked = photo.faces?.some(({ view }) => view === 'front') ?? false;
  const [marking, setMarking] = useState(!isMarked);
  if (error && !last) return <Failed error={error} retry={retry} />;
  if (!last) return <Waiting rows={8} />;
  if (marking || !isMarked)
    return (
      <Marks
        photo={photo}
        known={last}
        onChange={onChange}
        onForm={onForm}
        onDone={() => setMarking(false)}
      />
    );
  return (
    <Shown
      entry={entry}
      n={n}
      photo={photo.photo}
      known={last}
      scheme={chosenOf(entry)}
      onForm={onForm}
      onMark={() => setMarking(true)}
    />
  );
}
