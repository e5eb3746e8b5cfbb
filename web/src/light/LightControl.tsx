import { Sun } from 'lucide-react';
import { RadioGroup } from 'radix-ui';
import { Picker } from '../parts/Picker';
import { useLight, useLights, useShownInLights } from './light';

/** Chooses the light: all seven side by side where there is room, each as what it does to what is looked at; else a list. */
export function LightControl() {
  const { light, setLight } = useLight();
  const inLights = useShownInLights();
  const lights = useLights();
  return (
    <>
      <RadioGroup.Root
        value={light}
        onValueChange={(next) => setLight(next as typeof light)}
        aria-label="Light"
        className="hidden gap-1 wide:flex"
      >
        {lights.map(({ id, name, short, standard }, n) => (
          <RadioGroup.Item
            key={id}
            value={id}
            aria-label={name}
            title={`${name}, CIE ${standard}`}
            className="flex h-11 w-12 cursor-pointer flex-col justify-end gap-0.5 border-b-2 border-transparent pb-0.5 text-center text-xs text-soft hover:text-ink data-[state=checked]:border-ink data-[state=checked]:font-bold data-[state=checked]:text-ink"
          >
            {inLights && (
              <span aria-hidden className="flex h-5 shrink-0">
                {inLights[n]?.map((hex, colour) => (
                  <span
                    // biome-ignore lint/suspicious/noArrayIndexKey: two colours may be the same, and keep their places
                    key={colour}
                    className="flex-1"
                    style={{ background: hex }}
                  />
                ))}
              </span>
            )}
            {short}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <Picker
        label="Light"
        choices={lights}
        value={light}
        onChange={setLight}
        icon={<Sun size={18} aria-hidden />}
        className="wide:hidden"
      />
    </>
  );
}
