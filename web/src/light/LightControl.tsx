import { ChevronDown, Sun } from 'lucide-react';
import { Select, ToggleGroup } from 'radix-ui';
import { Choice, Choices } from '../parts/Choice';
import { useLight, useLights } from './light';

/** Chooses the light: all seven side by side where there is room, else a list. */
export function LightControl() {
  const { light, setLight } = useLight();
  const lights = useLights();
  return (
    <>
      <ToggleGroup.Root
        type="single"
        value={light}
        onValueChange={(next) => next && setLight(next)}
        aria-label="Light"
        className="hidden wide:flex rounded bg-panel p-0.5"
      >
        {lights.map((choice) => (
          <ToggleGroup.Item
            key={choice.id}
            value={choice.id}
            title={`CIE ${choice.standard}`}
            className="h-11 rounded-xs px-3 text-sm font-medium text-soft whitespace-nowrap cursor-pointer hover:bg-paper data-[state=on]:bg-ink data-[state=on]:text-white"
          >
            {choice.name}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
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
