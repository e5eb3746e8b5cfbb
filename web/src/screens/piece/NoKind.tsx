import { Link } from 'react-router';

/** Where nothing can be reported a piece yet, because nobody said what it is. */
export function NoKind({ title, words }: { title: string; words: string }) {
  return (
    <div className="grid justify-items-start gap-3 px-4 pt-2 md:px-5">
      <h1 className="text-3xl">{title}</h1>
      <p className="max-w-prose">{words}</p>
      <Link to="/piece" className="press press-ink">
        Choose its kind
      </Link>
    </div>
  );
}
