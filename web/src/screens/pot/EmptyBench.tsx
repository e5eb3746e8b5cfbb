import { Link } from 'react-router';

/** What to do first, where there is nothing in the pot. */
export function EmptyBench({ shelf, gone }: { shelf: number; gone: boolean }) {
  return (
    <section
      aria-label="Mix"
      className="m-auto grid max-w-md justify-items-center gap-3 p-8 text-center max-lg:order-first"
    >
      <h1 className="text-3xl">{gone ? 'That mix is not here' : 'An empty pot'}</h1>
      {shelf < 2 ? (
        <>
          <p>A mix takes two paints at least, and the shelf holds {shelf === 0 ? 'none' : 'one'}.</p>
          <Link to="/shelf/new" className="press press-ink">
            Add a paint
          </Link>
        </>
      ) : (
        <p>
          Tap the first paint in the list, then the second: it goes in part by part, and what comes out shows
          at once.
        </p>
      )}
    </section>
  );
}
