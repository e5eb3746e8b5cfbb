import { Check, CloudOff, LoaderCircle, TriangleAlert } from 'lucide-react';
import { Link, useLocation } from 'react-router';
import { useSaving } from '../state/saving';

const SAID = {
  saved: { icon: Check, words: 'Saved' },
  saving: { icon: LoaderCircle, words: 'Saving' },
  unreachable: { icon: CloudOff, words: 'Not saved yet: trying again' },
  refused: { icon: TriangleAlert, words: 'Not saved' },
};

/** Whether everything is on the disk; if not, why, and where it can be put right. */
export function SavingState() {
  const saving = useSaving();
  const { pathname } = useLocation();
  const { icon: Icon, words } = SAID[saving.state];
  const why = 'why' in saving ? saving.why : undefined;
  const place = saving.state === 'refused' && saving.place !== pathname ? saving.place : undefined;
  return (
    <div className="flex items-center gap-2 text-sm">
      <p role="status" className="flex items-center gap-1.5 whitespace-nowrap text-soft" title={why}>
        <Icon size={16} aria-hidden />
        <span className={saving.state === 'saved' ? 'max-wide:sr-only' : 'font-semibold text-ink'}>
          {words}
        </span>
      </p>
      {place && (
        <Link
          to={place}
          className="inline-flex min-h-11 items-center font-semibold whitespace-nowrap underline underline-offset-3"
          title={why}
        >
          Put it right
        </Link>
      )}
    </div>
  );
}
