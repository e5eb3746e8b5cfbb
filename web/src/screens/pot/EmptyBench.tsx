import { Link } from 'react-router';

/** What to do first, where there is nothing in the pot. */
export function EmptyBench({ shelf, gone }: { shelf: number; gone: boolean }) {
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
        <p>Tap two paints in the list. The mix shows straight away.</p>
      )}
    </section>
  );
}
