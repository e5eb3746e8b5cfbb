import { useId, useState } from 'react';
import type { PieceKept } from '../../api/client';
import { KeptPhoto } from '../../common/KeptPhoto';
import { Checkbox } from '../../parts/Checkbox';
import { useTell } from '../../parts/Notice';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { useAction, why } from '../../parts/useAction';
import { usePhotos } from '../../state/files';
import { useNoteCalls } from '../../state/log';
import { useAgreedPicture } from '../../state/onPhoto';
import { useUnsent } from '../../state/unsaved';

interface Draft {
  words: string;
  onPiece: boolean;
  agreed: boolean;
  photo: string | null;
  /** When the photo was taken, if the camera says so. */
  taken: string | null;
  /** Whether the note stands under that time. */
  dated: boolean;
}

const EMPTY: Draft = { words: '', onPiece: true, agreed: false, photo: null, taken: null, dated: true };

interface Props {
  piece: PieceKept | undefined;
  /** Whether it is not yet known which piece is at hand. */
  asking: boolean;
}

/** A note on the piece at hand or on nothing in particular, a photo with it, or what the client agreed to. */
export function WriteNote({ piece, asking }: Props) {
  const id = useId();
  const [draft, setDraft, forgetDraft] = useUnsent<Draft>('note', EMPTY);
  const { words, onPiece, agreed, photo, taken, dated } = draft;
  const set = (what: Partial<Draft>) => setDraft((now) => ({ ...now, ...what }));
  const [coming, setComing] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const clock = clockOf(undefined);
  const calls = useNoteCalls();
  const { attempt, busy } = useAction();
  const at = piece?.entry.chosen ?? 0;
  const scheme = piece?.entry.schemes?.[at]?.name;
  const picture = useAgreedPicture();
  const { keep: keepPhoto } = usePhotos();
  const tell = useTell();
  /** What the client saw stays, whatever becomes of the scheme. */
  const agreedOn = async () => {
    try {
      const file = piece && (await picture(piece.entry, at));
      return file ? (await keepPhoto(file)).id : null;
    } catch (error) {
      tell(`Saved without a picture of the scheme: ${why(error)}`, 'stays');
      return null;
    }
  };
  const keep = () =>
    attempt(
      'Couldn’t save the note',
      async () => {
        await calls.write({
          words: words.trim() || null,
          photo: photo ?? (agreed ? await agreedOn() : null),
          at: dated ? taken : null,
          piece: piece && (onPiece || agreed) ? piece.id : null,
          agreed: agreed ? (scheme ?? null) : null,
        });
        forgetDraft();
        setWrong(undefined);
      },
      (problem) => setWrong(problem.at('/words') ?? problem.message),
    );
  return (
    <form
      aria-label="Write a note"
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label htmlFor={id} className="text-lg font-semibold">
        Note
      </label>
      <textarea
        id={id}
        rows={3}
        className="field min-h-22 resize-y py-2"
        value={words}
        placeholder="The second coat covers. Strip B by the lamp: warmer."
        onChange={(event) => set({ words: event.target.value })}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        aria-invalid={wrong !== undefined}
      />
      {piece && (
        <Checkbox className="text-sm font-medium" checked={onPiece} onChange={(onPiece) => set({ onPiece })}>
          About {piece.entry.name}
        </Checkbox>
      )}
      {scheme && (
        <Checkbox className="text-sm font-medium" checked={agreed} onChange={(agreed) => set({ agreed })}>
          The client agreed to “{scheme}”
        </Checkbox>
      )}
      {agreed && !photo && piece?.entry.form && (
        <p className="text-sm text-soft">A picture of the piece in this finish is saved with the note.</p>
      )}
      <KeptPhoto
        photo={photo}
        onChange={(photo, taken = null) => set({ photo, taken, dated: true })}
        onWay={setComing}
        name="Photo"
        alt="To be kept with the note"
        className="max-h-40 justify-self-start"
      />
      {taken && (
        <Checkbox className="text-sm font-medium" checked={dated} onChange={(dated) => set({ dated })}>
          Date it {clock.full(taken)}, when the photo was taken
        </Checkbox>
      )}
      {wrong && <TroubleLine id={`${id}-wrong`}>{wrong}</TroubleLine>}
      <button
        type="submit"
        className="press press-ink justify-self-start"
        disabled={busy || asking || coming}
      >
        Add note
      </button>
    </form>
  );
}
