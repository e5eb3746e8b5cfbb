import { useState } from 'react';
import type { JarView, Problem } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { Field } from '../../parts/Field';
import { useTell } from '../../parts/Notice';
import { misread, plainNumber, typed } from '../../parts/numbers';
import { useAction } from '../../parts/useAction';
import { useJarCalls, useJars } from '../../state/jars';
import { useUnitScale } from '../../state/scales';

interface Props {
  /** The pot. */
  id: string;
  /** How much was poured, ml. */
  poured: number;
  /** What is known so far. */
  jar?: JarView;
}

/** How much is in a jar, where it stands, for whom, and what was noticed. */
export function JarForm({ id, poured, jar }: Props) {
  const volume = useUnitScale('volume');
  const signs = useJars().data?.signs ?? [];
  const calls = useJarCalls(id);
  const tell = useTell();
  const { attempt, busy } = useAction();
  const shown = (ml: number) => plainNumber(Math.round((10 * ml) / volume.one) / 10);
  const [left, setLeft] = useState(jar ? shown(jar.left_ml) : '');
  const [place, setPlace] = useState(jar?.place ?? '');
  const [client, setClient] = useState(jar?.client ?? '');
  const [noticed, setNoticed] = useState<string[]>(jar?.signs ?? []);
  const [problem, setProblem] = useState<Problem>();
  // What was not touched stays as exact as it is.
  const ml = jar && left === shown(jar.left_ml) ? jar.left_ml : typed(left, volume);
  const keep = async () => {
    setProblem(undefined);
    await attempt(
      'Couldn’t keep it',
      async () => {
        await calls.keep({ left_ml: ml ?? 0, place: place || null, client: client || null, signs: noticed });
        tell(jar ? 'Saved' : 'It’s in a jar');
      },
      setProblem,
    );
  };
  return (
    <form
      className="grid max-w-2xl gap-3 sm:grid-cols-3"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <Field
        label="In the jar"
        unit={volume.unit}
        inputMode="decimal"
        value={left}
        onChange={setLeft}
        placeholder={`of ${shown(poured)}`}
        error={misread(left, volume) ?? problem?.at('/left_ml')}
      />
      <Field
        label="Where it stands"
        placeholder="shelf 2"
        value={place}
        onChange={setPlace}
        error={problem?.at('/place')}
      />
      <Field
        label="Kept for"
        placeholder="a client, or nobody"
        value={client}
        onChange={setClient}
        error={problem?.at('/client')}
      />
      <fieldset className="flex flex-wrap gap-x-5 sm:col-span-3">
        <legend className="text-sm font-semibold">Noticed</legend>
        {signs.map((sign) => (
          <Checkbox
            key={sign.id}
            checked={noticed.includes(sign.id)}
            onChange={(on) =>
              setNoticed(on ? [...noticed, sign.id] : noticed.filter((one) => one !== sign.id))
            }
          >
            {sign.name}
          </Checkbox>
        ))}
      </fieldset>
      <button
        type="submit"
        className={`press w-fit ${jar ? 'press-plain' : 'press-ink'}`}
        disabled={busy || ml == null}
      >
        {jar ? 'Save' : 'Keep it in a jar'}
      </button>
    </form>
  );
}
