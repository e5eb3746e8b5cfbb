// How amounts of paint and temperatures are shown and typed, in the units that the painter chose.

import { useQuery } from '@tanstack/react-query';
import { api, got } from '../api/client';
import { useUnits } from '../light/light';
import { type Scale, withUnit } from '../parts/numbers';

const one = (unit: string): Scale => ({ unit, one: 1, zero: 0, places: 1, others: [] });
/** Until the engine has answered. */
const METRIC = { volume: one('ml'), temperature: one('°C') };

export function useUnitScale(of: 'volume' | 'temperature'): Scale {
  const units = useUnits();
  const scales = useQuery({
    queryKey: ['scales', units],
    queryFn: () => got(api.GET('/api/scales', { params: { query: { units } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (scales.data ?? METRIC)[of];
}

/** `250 ml` or `8.5 fl oz`. */
export function useVolume() {
  const scale = useUnitScale('volume');
  return (ml: number) => withUnit(ml, { ...scale, places: ml < 10 * scale.one ? 1 : 0 });
}
