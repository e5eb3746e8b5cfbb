import { UserPlus } from 'lucide-react';
import { type FormEvent, useState } from 'react';
import type { Network as Shown } from '../../api/client';
import { Field } from '../../parts/Field';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { useAction, why } from '../../parts/useAction';
import type { useNetwork } from '../../state/network';

const clock = clockOf(null);

const ROLES = [
  { id: 'helper', name: 'A helper, who may change things' },
  { id: 'guest', name: 'A guest, who only looks, for a day' },
] as const;

interface Props {
  data: Shown;
  calls: ReturnType<typeof useNetwork>;
}

/** Lets one machine in by a code. */
export function Invitation({ data, calls }: Props) {
  const { attempt, busy } = useAction();
  const [name, setName] = useState('');
  const [role, setRole] = useState<(typeof ROLES)[number]['id']>('helper');
  const { invite, withdraw } = calls;
  const make = async (event: FormEvent) => {
    event.preventDefault();
    const made = await attempt(
      'Couldn’t make a code',
      () => invite.mutateAsync({ name, role }),
      () => undefined,
    );
    if (made) setName('');
  };
  const { invitation } = data;
  if (invitation)
    return (
      <section className="grid gap-3 pt-2" aria-label="Code">
        <h2 className="text-xl">
          Let in <bdi>{invitation.name}</bdi>
        </h2>
        {invitation.is_open ? (
          <div className="grid items-center gap-6 md:grid-cols-[minmax(0,32rem)_auto] md:justify-start">
            <div className="grid gap-2">
              <p>
                On the other machine, open{' '}
                <span className="font-semibold break-all select-all">{data.addresses[0]}</span> and type
              </p>
              <p className="font-display text-6xl font-[650] tracking-wide">{invitation.code}</p>
              <p className="text-soft">
                Valid until {clock.time(invitation.until)}, for one machine. The browser may warn that it
                doesn’t know the certificate; go on if the words below are the same on both.
              </p>
              {data.addresses.length > 1 && (
                <p className="text-sm text-soft">Also at {data.addresses.slice(1).join(', ')}</p>
              )}
            </div>
            {invitation.square && (
              <svg
                role="img"
                aria-label="Square code with the address and the code"
                viewBox={`-3 -3 ${invitation.size + 6} ${invitation.size + 6}`}
                className="size-48 shrink-0 bg-white"
                shapeRendering="crispEdges"
              >
                <path d={invitation.square} fill="black" />
              </svg>
            )}
          </div>
        ) : (
          <TroubleLine>
            {invitation.wrong >= 5
              ? 'Somebody typed a wrong code five times, so it is no longer valid. Make a new one.'
              : 'The code is no longer valid. Make a new one.'}
          </TroubleLine>
        )}
        <button
          type="button"
          className="press press-plain justify-self-start"
          disabled={busy}
          onClick={() => void attempt('Couldn’t take the code back', withdraw)}
        >
          {invitation.is_open ? 'Cancel' : 'Make another'}
        </button>
      </section>
    );
  return (
    <form className="grid gap-2 pt-2" onSubmit={make}>
      <h2 className="text-xl">Let somebody in</h2>
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <Field
          label="Name"
          value={name}
          onChange={setName}
          placeholder="Robin, tablet at the bench"
          className="w-72"
          error={invite.error ? why(invite.error) : undefined}
        />
        <Segments
          label="As"
          choices={ROLES}
          value={role}
          onChange={setRole}
          className="flex flex-wrap sm:pt-5"
        />
      </div>
      <button type="submit" className="press press-ink justify-self-start" disabled={busy}>
        <UserPlus size={18} aria-hidden /> Make a code
      </button>
    </form>
  );
}
