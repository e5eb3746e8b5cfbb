// The light everything on the screen is seen in.

import { useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import { api, got, type LightChoice } from '../api/client';

const KEPT_AS = 'warm-blend light';

interface LightNow {
  light: string;
  setLight: (light: string) => void;
}

const Light = createContext<LightNow>({ light: 'daylight', setLight: () => {} });

export function LightProvider({ children }: { children: ReactNode }) {
  const [light, setLight] = useState(() => localStorage.getItem(KEPT_AS) ?? 'daylight');
  const value = useMemo(
    () => ({
      light,
      setLight(next: string) {
        localStorage.setItem(KEPT_AS, next);
        setLight(next);
      },
    }),
    [light],
  );
  return <Light value={value}>{children}</Light>;
}

export const useLight = () => useContext(Light);

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
