import { Link } from 'react-router';

interface Props {
  /** How many paints there are. */
  shelf: number;
  /** True where the mix in the address is there no more. */
  gone: boolean;
  /** Begins with a colour to match instead of a paint. */
  onAim: () => void;
}

/** What to do first, where there is nothing in the pot. */
export function EmptyBench({ shelf, gone, onAim }: Props) {
  return (
    <section
      aria-label="Mix"
      className="m-auto grid max-w-md justify-items-center gap-3 p-8 text-center max-lg:order-first"
    >
      <h1 className="text-3xl">{gone ? 'Mix not found' : 'Empty pot'}</h1>
      {shelf < 2 ? (
        <>
          <p>A mix needs at least two paints. The shelf has {shelf === 0 ? 'none' : 'one'}.</p>
          <Link to="/shelf/new" className="press press-ink">
            Add a paint
          </Link>
        </>
      ) : (
        <>
          <p>Tap two paints in the list to see their mix, or start from a colour you want to match.</p>
          <button type="button" className="press press-ink" onClick={onAim}>
            Start from a target
          </button>
        </>
      )}
    </section>
  );
}
