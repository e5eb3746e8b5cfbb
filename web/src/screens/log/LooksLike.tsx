import { useDeferredValue, useState } from 'react';
import { Link } from 'react-router';
import { Problem } from '../../api/client';
import { Field } from '../../parts/Field';
import { deltaE } from '../../parts/numbers';
import { clockOf } from '../../parts/times';
import { useLike } from '../../state/log';

const clock = clockOf(undefined);

/** A pot that nobody named is found by what it looks like. */
export function LooksLike() {
  const [hex, setHex] = useState('');
  const asked = useDeferredValue(hex.trim());
  // While its digits are being typed nothing is asked; whatever else stands there is found fault with.
  const typing = /^#?[0-9a-f]{0,5}$/i.test(asked) && !/^#?([0-9a-f]{3})$/i.test(asked);
  const found = useLike(asked && !typing ? asked : undefined);
  const problem =
    asked && !typing && found.error instanceof Problem
      ? (found.error.at('?hex') ?? found.error.at('/hex') ?? found.error.message)
      : undefined;
  const shown = asked && !typing && !found.error ? (found.data ?? []) : [];
  return (
    <section aria-label="Looks like" className="grid gap-2">
      <Field
        label="Find by colour"
        value={hex}
        onChange={setHex}
        placeholder="#66737c"
        spellCheck={false}
        hint="Enter a hex code to find the closest pots"
        error={problem}
      />
      {shown.length > 0 && (
        <ul className="grid">
          {shown.slice(0, 8).map((pot) => (
            <li key={pot.line} className="grid grid-cols-[4.5rem_minmax(0,1fr)] bg-panel">
              <span aria-hidden className="min-h-14" style={{ backgroundColor: pot.hex }} />
              <span className="px-3 py-1.5 leading-tight">
                {pot.mix ? (
                  <Link to={`/pot/${pot.mix}`} className="hover:underline">
                    {pot.words}
                  </Link>
                ) : (
                  pot.words
                )}
                <span className="block text-sm text-soft">
                  {clock.short(pot.at)}, ΔE {deltaE(pot.difference)}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
