import { useState } from 'react';
import type { Mix, MixEntry } from '../../api/client';
import { Picker } from '../../parts/Picker';
import { useAction } from '../../parts/useAction';
import { madeInto, usePresets } from '../../state/bench';
import { settle } from '../../state/saving';
import type { Change } from '../../state/useDraft';
import { useMixCalls } from '../../state/workspace';

interface Props {
  mix: Mix;
  entry: MixEntry;
  /** True where there is a medium in the pot. */
  thinned: boolean;
  onChange: (entry: Change<MixEntry>) => void;
  /** A named mix stays as it is: it was copied, and the copy made into that. */
  onCopied: (id: string) => void;
}

/** Makes the pot a glaze, a wash, a wax …: its paints keep their ratio. What the shelf lacks is put on it in one touch. */
export function MakeInto({ mix, entry, thinned, onChange, onCopied }: Props) {
  const presets = usePresets().data ?? [];
  const calls = useMixCalls();
  const { attempt, busy } = useAction();
  const [wanted, setWanted] = useState<string>();
  const missing = presets.find((preset) => preset.id === wanted)?.missing ?? [];

  // `Glaze, 4 to 1` makes `slate blue, glaze`.
  const copied = (name: string, preset: string | null, components: MixEntry['components']) => {
    const [into = 'without a medium'] = presets.find(({ id }) => id === preset)?.name.split(',') ?? [];
    return calls.make({ name: `${name}, ${into.toLowerCase()}`, components, target: null });
  };

  const make = async (preset: string | null) => {
    const { components, name } = entry;
    if (name) {
      const copy = await attempt('Couldn’t make it into that', async () => {
        const made = await madeInto(components, preset);
        return copied(name, preset, made);
      });
      if (copy) onCopied(copy.id);
      return;
    }
    const made = await attempt('Couldn’t make it into that', () => madeInto(components, preset));
    // Somebody may have poured into it meanwhile.
    if (made) onChange((now) => (now.components === components ? { ...now, components: made } : now));
  };
  const choose = (id: string) => {
    setWanted(undefined);
    if (id === 'plain') return make(null);
    if (id === 'choose') return;
    if (presets.find((preset) => preset.id === id)?.missing.length) return setWanted(id);
    return make(id);
  };
  const putOnShelf = async () => {
    if (!wanted) return;
    const made = await attempt('Couldn’t add the medium', async () => {
      await settle();
      const { name, components } = entry;
      const into = name ? await copied(name, wanted, components) : mix;
      await calls.makeInto(into.id, wanted);
      return into;
    });
    if (!made) return;
    setWanted(undefined);
    if (made.id !== mix.id) onCopied(made.id);
  };
  return (
    <span className="flex flex-wrap items-center gap-2">
      {missing.length > 0 && (
        <>
          <span role="status" className="text-sm font-medium">
            No {missing.map((medium) => medium.name.toLowerCase()).join(' or ')} on the shelf.
          </span>
          <button type="button" className="press press-plain text-sm" disabled={busy} onClick={putOnShelf}>
            Add to shelf
          </button>
        </>
      )}
      <Picker
        label="Make it into"
        choices={[
          { id: 'choose', name: 'Turn into…' },
          ...(thinned ? [{ id: 'plain', name: 'Paint, without a medium' }] : []),
          ...presets.map(({ id, name }) => ({ id, name })),
        ]}
        value="choose"
        onChange={choose}
      />
    </span>
  );
}
