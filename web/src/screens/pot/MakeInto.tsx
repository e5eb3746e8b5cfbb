import { useState } from 'react';
import { type MixEntry, Problem } from '../../api/client';
import { useTell } from '../../parts/Notice';
import { Picker } from '../../parts/Picker';
import { madeInto, usePresets } from '../../state/bench';
import { usePaintCalls } from '../../state/workspace';

interface Props {
  entry: MixEntry;
  /** True where there is a medium in the pot. */
  thinned: boolean;
  onChange: (entry: MixEntry) => void;
}

/** Makes the pot a glaze, a wash, a wax …: its paints keep their ratio. What the shelf lacks is put on it in one touch. */
export function MakeInto({ entry, thinned, onChange }: Props) {
  const presets = usePresets().data ?? [];
  const calls = usePaintCalls();
  const tell = useTell();
  const [wanted, setWanted] = useState<string>();
  const missing = presets.find((preset) => preset.id === wanted)?.missing ?? [];

  const make = async (preset: string | null) => {
    try {
      onChange({ ...entry, components: await madeInto(entry.components, preset) });
    } catch (error) {
      tell(error instanceof Problem ? error.message : 'Not made: the program does not answer');
    }
  };
  const choose = (id: string) => {
    setWanted(undefined);
    if (id === 'plain') return make(null);
    if (id === 'choose') return;
    if (presets.find((preset) => preset.id === id)?.missing.length) return setWanted(id);
    return make(id);
  };
  const putOnShelf = async () => {
    try {
      for (const { class: of, name } of missing) await calls.make({ name: name.toLowerCase(), class: of });
      if (wanted) await make(wanted);
      setWanted(undefined);
    } catch (error) {
      tell(error instanceof Problem ? error.message : 'Not added: the program does not answer');
    }
  };
  return (
    <span className="flex flex-wrap items-center gap-2">
      {missing.length > 0 && (
        <>
          <span role="status" className="text-sm font-medium">
            There is no {missing.map((medium) => medium.name.toLowerCase()).join(' or ')} on the shelf.
          </span>
          <button type="button" className="press press-plain text-sm" onClick={putOnShelf}>
            Put it there
          </button>
        </>
      )}
      <Picker
        label="Make it into"
        choices={[
          { id: 'choose', name: 'Make it into…' },
          ...(thinned ? [{ id: 'plain', name: 'Paint, without a medium' }] : []),
          ...presets.map(({ id, name }) => ({ id, name })),
        ]}
        value="choose"
        onChange={choose}
      />
    </span>
  );
}
