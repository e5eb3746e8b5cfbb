import { TroubleLine } from '../parts/TroubleLine';
import { why } from '../parts/useAction';
import type { LastPreview } from '../state/preview';

/** That what is seen is not what is put together, and why. */
export function NotPredicted({
  preview,
  shown,
}: {
  preview: LastPreview<unknown>;
  shown: string | undefined;
}) {
  if (!preview.error) return null;
  const words = why(preview.error);
  return (
    <TroubleLine className="flex flex-wrap items-center gap-x-3">
      <span>Not predicted{words === shown ? '' : `: ${words}`}</span>
      <button type="button" className="press press-plain text-sm text-ink" onClick={preview.retry}>
        Try again
      </button>
    </TroubleLine>
  );
}
