import { ChevronDown, Sun } from 'lucide-react';
import { Select } from 'radix-ui';
import { Choice, Choices } from '../parts/Choice';
import { Segments } from '../parts/Segments';
import { useLight, useLights } from './light';

/** Chooses the light: all seven side by side where there is room, else a list. */
export function LightControl() {
  const { light, setLight } = useLight();
  const lights = useLights();
  return (
    <>
      <Segments
        label="Light"
        choices={lights.map(({ id, name, standard }) => ({ id, name, title: `CIE ${standard}` }))}
        value={light}
        onChange={setLight}
        className="hidden wide:flex"
      />
      <Select.Root value={light} onValueChange={setLight}>
        <Select.Trigger aria-label="Light" className="press press-plain wide:hidden shrink-0">
          <Sun size={18} aria-hidden />
          <Select.Value />
          <Select.Icon>
            <ChevronDown size={16} aria-hidden />
          </Select.Icon>
        </Select.Trigger>
        <Choices>
          {lights.map((choice) => (
            <Choice key={choice.id} value={choice.id} name={choice.name} />
          ))}
        </Choices>
      </Select.Root>
    </>
  );
}
