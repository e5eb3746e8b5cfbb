import { useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect } from 'react';
import { onShutOut, Problem } from '../api/client';
import { useMe } from '../state/network';
import { lookOnly } from '../state/saving';
import { Join } from './Join';

/** Other machines come by TLS. Nobody has to be let in here, so nothing waits for who it is. */
const AT_THE_MACHINE = window.location.protocol === 'http:';

/** Shows the screens to whoever is let in, and asks everybody else for a code. */
export function Gate({ children }: { children: ReactNode }) {
  const me = useMe();
  const client = useQueryClient();
  const isIn = me.isSuccess;
  useEffect(() => {
    if (isIn) return onShutOut(() => void client.invalidateQueries({ queryKey: ['me'] }));
  }, [client, isIn]);
  lookOnly(me.data?.role === 'guest');
  if (!me.isFetched && !AT_THE_MACHINE) return null;
  if (me.error instanceof Problem && me.error.is('join')) return <Join />;
  return children;
}
