import { Sun } from 'lucide-react';
import { Picker } from '../parts/Picker';
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
