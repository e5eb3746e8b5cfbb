import type { LastPreview } from '../state/preview';
import { why } from './useDeed';

/** That what is seen is not what is put together, and why. */
export function NotPredicted({ preview, told }: { preview: LastPreview<unknown>; told: string | undefined }) {
  if (!preview.error) return null;
  const words = why(preview.error);
  return (
    <p role="alert" className="flex flex-wrap items-center gap-x-3 font-medium text-alarm">
      <span>Not predicted{words === told ? '' : `: ${words}`}</span>
      <button type="button" className="press press-plain text-sm text-ink" onClick={preview.retry}>
        Try again
      </button>
    </p>
  );
}
