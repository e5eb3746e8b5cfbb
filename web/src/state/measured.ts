// Lengths, areas and colours that were typed, read by the server: here nothing is computed.

import { api, type Colour, got } from '../api/client';
import { useUnits } from '../light/light';

/** Reads one in the units at hand. */
export function useReadMeasure(measured: 'length' | 'run' | 'area') {
  const units = useUnits();
  return (text: string) => got(api.GET('/api/measured', { params: { query: { measured, text, units } } }));
}

/** How the screen shows a colour, or why no surface can have it. */
export function useSeeColour() {
  return (colour: Colour) => got(api.POST('/api/colour', { body: colour }));
}
