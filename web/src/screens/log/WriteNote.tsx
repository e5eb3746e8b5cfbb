import { useId, useState } from 'react';
import type { PieceKept } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { KeptPhoto } from '../../parts/KeptPhoto';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { useDeed } from '../../parts/useDeed';
import { useNoteCalls } from '../../state/log';

/** A note on the piece at hand or on nothing in particular, a photo with it, or what the client agreed to. */
export function WriteNote({ piece }: { piece: PieceKept | undefined }) {
  const id = useId();
  const [words, setWords] = useState('');
  const [onPiece, setOnPiece] = useState(true);
  const [agreed, setAgreed] = useState(false);
  const [photo, setPhoto] = useState<string>();
  const [taken, setTaken] = useState<string | null>();
  const [then, setThen] = useState(true);
  const [wrong, setWrong] = useState<string>();
  const clock = clockOf(undefined);
  const calls = useNoteCalls();
  const { attempt, busy } = useDeed();
  const scheme = piece?.entry.schemes?.[piece.entry.chosen ?? 0]?.name;
  const keep = () =>
    attempt(
      'The note was not kept',
      async () => {
        await calls.write({
          words: words.trim() || null,
          photo: photo ?? null,
          at: then ? (taken ?? null) : null,
          piece: piece && (onPiece || agreed) ? piece.id : null,
          agreed: agreed ? (scheme ?? null) : null,
        });
        setWords('');
        setPhoto(undefined);
        setTaken(undefined);
        setAgreed(false);
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
        onChange={(event) => setWords(event.target.value)}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        aria-invalid={wrong !== undefined}
      />
      {piece && (
        <Checkbox className="text-sm font-medium" checked={onPiece} onChange={(on) => setOnPiece(on)}>
          Of {piece.entry.name}
        </Checkbox>
      )}
      {scheme && (
        <Checkbox className="text-sm font-medium" checked={agreed} onChange={(on) => setAgreed(on)}>
          The client agreed to “{scheme}”
        </Checkbox>
      )}
      <KeptPhoto
        photo={photo}
        onChange={(kept, when) => {
          setPhoto(kept);
          setTaken(when);
          setThen(true);
        }}
        name="Photo"
        alt="To be kept with the note"
        className="max-h-40 justify-self-start"
      />
      {taken && (
        <Checkbox className="text-sm font-medium" checked={then} onChange={(on) => setThen(on)}>
          Under {clock.full(taken)}, when it was taken
        </Checkbox>
      )}
      {wrong && <TroubleLine id={`${id}-wrong`}>{wrong}</TroubleLine>}
      <button type="submit" className="press press-ink justify-self-start" disabled={busy}>
        Keep
      </button>
    </form>
  );
}
