import { type FormEvent, useState } from 'react';
import { Field } from '../parts/Field';
import { why } from '../parts/useAction';
import { Words } from '../parts/Words';
import { useDoor, useJoin } from '../state/network';

/** Asks a machine of the network for its code. */
export function Join() {
  const door = useDoor();
  const join = useJoin();
  // From the square code that a camera has read.
  const [code, setCode] = useState(window.location.hash.replace(/\D/g, ''));
  const enter = (event: FormEvent) => {
    event.preventDefault();
    join.mutate(code, { onSuccess: () => window.location.replace(window.location.pathname) });
  };
  return (
    <main className="mx-auto grid max-w-lg content-start gap-5 p-5 pt-[12vh]">
      <h1 className="text-4xl">Join the workshop</h1>
      <form className="grid gap-3" onSubmit={enter}>
        <Field
          label="Code shown on the workshop’s machine"
          value={code}
          onChange={setCode}
          inputMode="numeric"
          className="max-w-64"
          error={join.error ? why(join.error) : undefined}
        />
        <button type="submit" className="press press-ink justify-self-start" disabled={join.isPending}>
          Join
        </button>
      </form>
      {door.data && (
        <section className="grid gap-2 pt-4">
          <h2 className="text-xl">Is this your workshop?</h2>
          <p className="text-soft">The same six words must stand on the workshop’s machine, under Network:</p>
          <Words words={door.data.words} />
          <details className="pt-2">
            <summary className="min-h-11 content-center font-semibold">The browser warns me</summary>
            <div className="grid gap-2 pt-1">
              <p>
                It doesn’t know the workshop’s own certificate. If in doubt, open the certificate in the
                browser; its SHA-256 fingerprint must be:
              </p>
              <code className="text-sm break-all select-all">{door.data.fingerprint}</code>
              {door.data.has_authority && (
                <p>
                  To stop the warning, download{' '}
                  <a className="underline underline-offset-3" href="/api/network/authority.crt" download>
                    the workshop’s certificate
                  </a>{' '}
                  and add it to the trusted certificates of this device. It is only good for machines of a
                  local network.
                </p>
              )}
            </div>
          </details>
        </section>
      )}
    </main>
  );
}
