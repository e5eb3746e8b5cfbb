import { Check, CloudOff, LoaderCircle, TriangleAlert } from 'lucide-react';
import { useSaving } from '../state/saving';

const SAID = {
  saved: { icon: Check, words: 'Saved' },
  saving: { icon: LoaderCircle, words: 'Saving' },
  unreachable: { icon: CloudOff, words: 'Not saved yet: trying again' },
  refused: { icon: TriangleAlert, words: 'Not saved' },
};

/** Whether everything is on the disk. */
export function SavingState() {
  const saving = useSaving();
  const { icon: Icon, words } = SAID[saving.state];
  return (
    <p role="status" className="flex items-center gap-1.5 whitespace-nowrap text-sm text-soft">
      <Icon size={16} aria-hidden />
      <span className={saving.state === 'saved' ? 'max-wide:sr-only' : 'font-semibold text-ink'}>
        {words}
      </span>
    </p>
  );
}
