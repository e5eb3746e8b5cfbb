import { why } from './useAction';

interface Props {
  error: Error;
  retry: () => void;
  /** The room that the picture would take, where there is none. */
  className?: string;
}

/** Says why there is no picture, or only an old one, and offers to draw it again. */
export function NotDrawn({ error, retry, className = '' }: Props) {
  return (
    <div
      role="alert"
      className={`grid w-full place-content-center justify-items-center gap-2 bg-panel p-4 ${className}`}
    >
      <p className="max-w-prose text-center font-medium">Couldn’t draw the picture: {why(error)}.</p>
      <button type="button" className="press press-plain text-sm" onClick={retry}>
        Draw it again
      </button>
    </div>
  );
}
