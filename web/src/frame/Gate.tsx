import { useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect } from 'react';
import { onShutOut, Problem } from '../api/client';
import { useMe } from '../state/network';
import { lookOnly } from '../state/saving';
import { Join } from './Join';

/** Shows the screens to whoever is let in, and asks everybody else for a code. */
export function Gate({ children }: { children: ReactNode }) {
  const me = useMe();
  const client = useQueryClient();
  const isIn = me.isSuccess;
  useEffect(() => {
    if (isIn) return onShutOut(() => void client.invalidateQueries({ queryKey: ['me'] }));
  }, [client, isIn]);
  lookOnly(me.data?.role === 'guest');
  if (me.isPending) return null;
  if (me.error instanceof Problem && me.error.is('join')) return <Join />;
  return children;
}
