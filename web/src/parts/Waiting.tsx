import { RotateCw, TriangleAlert } from 'lucide-react';

/** While the first answer is on its way: the shape of what comes. */
export function Waiting({ rows = 8 }: { rows?: number }) {
  return (
    <div role="status" className="grid gap-px p-1">
      <span className="sr-only">Loading</span>
      {Array.from({ length: rows }, (_, row) => row).map((row) => (
        <div key={row} className="h-11 animate-pulse bg-panel" />
      ))}
    </div>
  );
}

/** When there was no answer: why, and the way to try again. */
export function Failed({ error, retry }: { error: Error; retry: () => void }) {
  const unreachable = error instanceof TypeError;
  return (
    <div role="alert" className="m-6 grid max-w-xl justify-items-start gap-3">
      <p className="flex items-center gap-2 text-lg font-semibold text-alarm">
        <TriangleAlert aria-hidden />{' '}
        {unreachable ? 'Warm Blend isn’t responding' : 'This could not be loaded'}
      </p>
      <p>
        {unreachable
          ? 'Nothing is lost. It may have been stopped, or its machine is off or out of reach. This page reloads its content as soon as it answers.'
          : error.message}
      </p>
      <button type="button" className="press press-ink" onClick={retry}>
        <RotateCw size={18} aria-hidden /> Try again
      </button>
    </div>
  );
}
