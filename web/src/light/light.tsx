// The light everything on the screen is seen in, the state of the film (wet, dry, sealed or buffed), and the units lengths are
// said in.

import { useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from 'react';
import { api, explainIn, got, type LightChoice, type LightName, type StateName } from '../api/client';

const LIGHT_KEPT_AS = 'warm-blend light';
const STATE_KEPT_AS = 'warm-blend state';
const UNITS_KEPT_AS = 'warm-blend units';
const UNITS = [{ id: 'metric' }, { id: 'imperial' }] as const;
type Units = (typeof UNITS)[number]['id'];

export const STATES = [
  { id: 'wet', name: 'Wet' },
  { id: 'dry', name: 'Dry' },
  { id: 'sealed', name: 'Sealed' },
  { id: 'buffed', name: 'Buffed' },
] as const satisfies { id: StateName; name: string }[];

/** Hex codes of what is looked at in each light, in the order of the lights: one colour, or two that are seen together. */
export type InLights = string[][];

interface LookNow {
  light: LightName;
  setLight: (light: LightName) => void;
  state: StateName;
  setState: (state: StateName) => void;
  units: Units;
  setUnits: (units: Units) => void;
}

/** What the screen at hand shows in each light; nothing where it does not say. Apart from the rest: it changes with every preview. */
const Shown = createContext<InLights | undefined>(undefined);
const SetShown = createContext<(inLights: InLights | undefined) => void>(() => {});

const Look = createContext<LookNow>({
  light: 'daylight',
  setLight: () => {},
  state: 'dry',
  setState: () => {},
  units: 'metric',
  setUnits: () => {},
});

/** A choice that outlasts a reload; one that is no longer known gives way to the usual. */
function useKept<T extends string>(key: string, otherwise: T, known?: readonly { id: T }[]) {
  const [kept, setValue] = useState(() => localStorage.getItem(key) ?? otherwise);
  const value = known?.some(({ id }) => id === kept) === false ? otherwise : (kept as T);
  const keep = useMemo(
    () => (next: T) => {
      localStorage.setItem(key, next);
      setValue(next);
    },
    [key],
  );
  return [value, keep] as const;
}

export function LightProvider({ children }: { children: ReactNode }) {
  const lights = useLights();
  const [light, setLight] = useKept<LightName>(
    LIGHT_KEPT_AS,
    'daylight',
    lights.length > 0 ? lights : undefined,
  );
  const [state, setState] = useKept<StateName>(STATE_KEPT_AS, 'dry', STATES);
  const [units, setUnits] = useKept<Units>(UNITS_KEPT_AS, 'metric', UNITS);
  const [shown, setShown] = useState<InLights>();
  // Dates and money follow the units: 27 November, or November 27.
  document.documentElement.lang = units === 'metric' ? 'en-GB' : 'en-US';
  explainIn(units);
  const value = useMemo(
    () => ({ light, setLight, state, setState, units, setUnits }),
    [light, setLight, state, setState, units, setUnits],
  );
  return (
    <Look value={value}>
      <SetShown value={setShown}>
        <Shown value={shown}>{children}</Shown>
      </SetShown>
    </Look>
  );
}

export const useLight = () => useContext(Look);

/** Lets each light be shown as what it does to what is looked at, for as long as it is on the screen. */
export function useInLights(colours: InLights | undefined) {
  const setShown = useContext(SetShown);
  const said = JSON.stringify(colours);
  useEffect(() => {
    setShown(said === undefined ? undefined : (JSON.parse(said) as InLights));
    return () => setShown(undefined);
  }, [said, setShown]);
}

/** What the screen at hand shows in each light. */
export const useShownInLights = () => useContext(Shown);

/** `metric` or `imperial`. */
export const useUnits = () => useContext(Look).units;

/** The light and the state as a request names them. */
export function useLook() {
  const { light, state } = useLight();
  return useMemo(() => ({ light, state }), [light, state]);
}

const NONE: LightChoice[] = [];

/** The lights there are. */
export function useLights(): LightChoice[] {
  const lights = useQuery({
    queryKey: ['lights'],
    queryFn: () => got(api.GET('/api/lights')),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return lights.data ?? NONE;
}

/** What the light at hand is called in a sentence. */
export function useLightName() {
  const { light } = useLight();
  return (
    useLights()
      .find((choice) => choice.id === light)
      ?.name.toLowerCase() ?? light
  );
}
