import type { Point } from './Handle';

/** Half the side of a new outline, in widths of the photo. */
const HALF = 0.06;

interface Props {
  outlines: Point[][];
  /** The middle of the photo. */
  middle: Point;
  onChange: (outlines: Point[][]) => void;
}

/** An outline with a point more, in the middle of its longest side. */
function withMore(outline: Point[]): Point[] {
  const length = (i: number) => {
    const [[ax, ay] = [0, 0], [bx, by] = [0, 0]] = [outline[i], outline[(i + 1) % outline.length]];
    return Math.hypot(bx - ax, by - ay);
  };
  const longest = outline.reduce((best, _, i) => (length(i) > length(best) ? i : best), 0);
  const [[ax, ay] = [0, 0], [bx, by] = [0, 0]] = [outline[longest], outline[(longest + 1) % outline.length]];
  return [...outline.slice(0, longest + 1), [(ax + bx) / 2, (ay + by) / 2], ...outline.slice(longest + 1)];
}

/** What stands in front of the piece and stays as it is: the last outline is at hand. */
export function HiddenMarks({ outlines, middle: [x, y], onChange }: Props) {
  const last = outlines.at(-1);
  const begin: Point[] = [
    [x - HALF, y - HALF],
    [x + HALF, y - HALF],
    [x + HALF, y + HALF],
    [x - HALF, y + HALF],
  ];
  return (
    <>
      <p>
        {last
          ? 'Drag the points around what stands in front; it stays as it is.'
          : 'Does something stand in front of the piece, a vase or a chair? Draw round it, and it stays as it is.'}
      </p>
      <div className="flex flex-wrap gap-1">
        {outlines.length < 12 && (
          <button type="button" className="press press-plain" onClick={() => onChange([...outlines, begin])}>
            {last ? 'Another outline' : 'Draw an outline'}
          </button>
        )}
        {last && last.length < 64 && (
          <button
            type="button"
            className="press press-plain"
            onClick={() => onChange([...outlines.slice(0, -1), withMore(last)])}
          >
            Add a point
          </button>
        )}
        {last && (
          <button
            type="button"
            className="press press-bare px-2 text-sm"
            onClick={() => onChange(outlines.slice(0, -1))}
          >
            Remove outline
          </button>
        )}
      </div>
    </>
  );
}
