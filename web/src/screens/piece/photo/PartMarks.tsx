import type { Piece } from '../../../api/client';
import { Picker } from '../../../parts/Picker';
import type { PhotoPart } from './Parts';

interface Props {
  parts: PhotoPart[];
  chosen: PhotoPart | undefined;
  /** Parts that lie elsewhere than in the drawing. */
  moved: NonNullable<Piece['moved']>;
  onChoose: (part: PhotoPart) => void;
  onDrawn: () => void;
}

/** Where the parts of the piece differ from the drawing: one of them is at hand. */
export function PartMarks({ parts, chosen, moved, onChoose, onDrawn }: Props) {
  if (parts.length === 0) return <p>Mark the front first: then the parts are outlined here.</p>;
  return (
    <>
      <p>
        Does a drawer or a panel lie elsewhere? Touch it, and drag its two points to its corners. The drawing
        and the amounts follow.
      </p>
      <Picker
        label="Part"
        placeholder="Choose a part"
        choices={parts.map((part) => ({ id: idOf(part), name: part.name }))}
        value={chosen ? idOf(chosen) : ''}
        onChange={(id) => {
          const part = parts.find((one) => idOf(one) === id);
          if (part) onChoose(part);
        }}
      />
      {moved.length > 0 && (
        <button
          type="button"
          className="press press-bare justify-self-start px-0 text-sm underline underline-offset-2"
          onClick={onDrawn}
        >
          All parts as drawn
        </button>
      )}
    </>
  );
}

/** What a part is found by. */
export const idOf = ({ view, part }: PhotoPart) => `${view} ${String(part)}`;
