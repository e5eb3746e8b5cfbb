import { DoorClosed } from 'lucide-react';
import { useState } from 'react';
import type { Network as Shown } from '../../api/client';
import { Ask } from '../../parts/Ask';
import { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import type { useNetwork } from '../../state/network';

const clock = clockOf(null);

type Session = Shown['sessions'][number];

interface Props {
  data: Shown;
  calls: ReturnType<typeof useNetwork>;
}

/** Machines that were let in. */
export function LetIn({ data, calls }: Props) {
  const { attempt, busy } = useAction();
  const [meant, setMeant] = useState<Session>();
  if (data.sessions.length === 0) return null;
  return (
    <section className="grid gap-2 pt-4">
      <h2 className="text-xl">Let in</h2>
      <ul>
        {data.sessions.map((session) => (
          <li
            key={session.id}
            className="flex items-center justify-between gap-3 border-t border-line py-1.5"
          >
            <span className="min-w-0">
              <bdi className="font-semibold">{session.name}</bdi>{' '}
              <span className="text-soft">
                {session.role === 'guest' ? 'guest' : 'helper'}, last seen {clock.both(session.seen_at)}
              </span>
            </span>
            <button
              type="button"
              className="press press-plain shrink-0"
              disabled={busy}
              aria-label={`Shut out ${session.name}`}
              onClick={() => setMeant(session)}
            >
              <DoorClosed size={18} aria-hidden /> Shut out
            </button>
          </li>
        ))}
      </ul>
      {meant && (
        <Ask
          title={`Shut out ${meant.name}?`}
          words="The machine loses its connection at once, and needs a new code to come back."
          yes="Shut out"
          no="Cancel"
          onYes={() => void attempt('Couldn’t shut it out', () => calls.revoke(meant.id))}
          onClose={() => setMeant(undefined)}
        />
      )}
    </section>
  );
}
