import { type FormEvent, useState } from 'react';
import type { Network as Shown } from '../../api/client';
import { Field } from '../../parts/Field';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction, why } from '../../parts/useAction';
import { Failed, Waiting } from '../../parts/Waiting';
import { Words } from '../../parts/Words';
import { useNetwork } from '../../state/network';
import { Certificate } from './Certificate';
import { Invitation } from './Invitation';
import { LetIn } from './LetIn';

type Calls = ReturnType<typeof useNetwork>;

/** The workspace on other machines of the workshop: whether, under which address, and who is let in. */
export function Network() {
  const calls = useNetwork();
  const { network } = calls;
  if (network.isError && !network.data)
    return <Failed error={network.error} retry={() => void network.refetch()} />;
  if (!network.data) return <Waiting />;
  const { data } = network;
  return (
    <div className="grid max-w-4xl gap-3 px-4 pt-2 pb-8 md:px-5">
      <h1 className="text-3xl">Network</h1>
      <p className="text-lg" role="status">
        {verdict(data)}
      </p>
      {data.trouble && <TroubleLine>{data.trouble}</TroubleLine>}
      {data.is_on ? (
        <On data={data} calls={calls} />
      ) : (
        <p className="max-w-prose text-soft">
          Open your work on a tablet at the bench, let a helper tick off steps, or show a client a finish.
          Everything stays on this machine; the others reach it over your own network, encrypted, and only
          with a code from you.
        </p>
      )}
      <Settings key={`${data.is_on} ${data.port}`} data={data} calls={calls} />
      {data.is_on && <Certificate data={data} calls={calls} />}
    </div>
  );
}

/** Who can reach the workspace, in one sentence. */
function verdict({ is_on, addresses, sessions }: Shown) {
  if (!is_on) return 'Off: only this machine opens your work.';
  if (addresses.length === 0) return 'On, but this machine can’t be reached.';
  const n = sessions.length;
  return n === 0
    ? 'On. Nobody is let in yet.'
    : `On. ${n === 1 ? 'One other machine is' : `${n} other machines are`} let in.`;
}

function On({ data, calls }: { data: Shown; calls: Calls }) {
  return (
    <>
      <Invitation data={data} calls={calls} />
      <LetIn data={data} calls={calls} />
      {data.words.length > 0 && (
        <section className="grid gap-2 pt-4">
          <h2 className="text-xl">Words of this workshop</h2>
          <p className="max-w-prose text-soft">
            Every machine shows them before it is let in. If they differ, it has reached another workshop.
          </p>
          <Words words={data.words} />
        </section>
      )}
    </>
  );
}

function Settings({ data, calls }: { data: Shown; calls: Calls }) {
  const { attempt, busy } = useAction();
  const [painter, setPainter] = useState(data.painter ?? '');
  const [port, setPort] = useState(`${data.port}`);
  const { set } = calls;
  const apply = (is_on: boolean) =>
    attempt(
      'Couldn’t change the network',
      () => set.mutateAsync({ is_on, port: Number(port) || 0, painter: painter.trim() || null }),
      () => undefined,
    );
  const error = set.error ? why(set.error) : undefined;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void apply(true);
  };
  return (
    <form className="grid gap-3 pt-4" onSubmit={submit}>
      {data.is_on && <h2 className="text-xl">Settings</h2>}
      <div className="flex flex-wrap gap-3">
        <Field
          label="Your name"
          value={painter}
          onChange={setPainter}
          hint="The log says who did what."
          className="w-64"
        />
        <Field
          label="Port"
          value={port}
          onChange={setPort}
          inputMode="numeric"
          error={error}
          className="w-64"
        />
      </div>
      <div className="flex flex-wrap gap-2">
        <button type="submit" className={`press ${data.is_on ? 'press-plain' : 'press-ink'}`} disabled={busy}>
          {data.is_on ? 'Apply' : 'Turn on'}
        </button>
        {data.is_on && (
          <button
            type="button"
            className="press press-plain"
            disabled={busy}
            onClick={() => void apply(false)}
          >
            Turn off
          </button>
        )}
      </div>
    </form>
  );
}
