import { useNavigate } from 'react-router';
import type { MixPart } from '../api/client';
import { useMixCalls } from './workspace';

/** Takes so much of a pot to the Pot, as the mix that it is already, or as a new one. */
export function useToPot() {
  const { ofParts } = useMixCalls();
  const go = useNavigate();
  return async (parts: MixPart[], ml: number, aims = false) => {
    const mix = await ofParts(parts);
    void go(`/pot/${mix.id}?ml=${ml}${aims ? '&aim' : ''}`);
  };
}
