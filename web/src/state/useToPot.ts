import { useNavigate } from 'react-router';
import type { MixPart } from '../api/client';
import { useMixCalls, useMixes } from './workspace';

/** Takes so much of a pot to the Pot, as the mix that it is already, or as a new one. */
export function useToPot() {
  const mixes = useMixes().data ?? [];
  const calls = useMixCalls();
  const go = useNavigate();
  return async (parts: MixPart[], ml: number) => {
    const same = (one: MixPart[]) => JSON.stringify(one) === JSON.stringify(parts);
    const known = mixes.find((mix) => same(mix.entry.components));
    const mix = known ?? (await calls.make({ components: parts }));
    go(`/pot/${mix.id}?ml=${ml}`);
  };
}
