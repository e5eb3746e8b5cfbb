// The workshop's network: who this page is, and who is let in.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, got, type Network } from '../api/client';

const queryKey = ['network'];

/** Who uses this page; `role` is missing at the workshop’s machine. */
export function useMe() {
  return useQuery({
    queryKey: ['me'],
    queryFn: () => got(api.GET('/api/network/me')),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    // Whoever is not let in, or finds the program away, is not asked about again by every part of the page.
    retryOnMount: false,
    refetchOnWindowFocus: false,
  });
}

/** The network and those who are let in: asked for now and then, because a code may be used at any moment. */
export function useNetwork() {
  const client = useQueryClient();
  const onSuccess = (network: Network) => {
    client.setQueryData(queryKey, network);
    void client.invalidateQueries({ queryKey: ['me'] });
  };
  const network = useQuery({
    queryKey,
    queryFn: () => got(api.GET('/api/network')),
    refetchInterval: 2000,
  });
  const set = useMutation({
    mutationFn: (body: { is_on: boolean; port: number; painter: string | null }) =>
      got(changing.PUT('/api/network', { body })),
    onSuccess,
  });
  const invite = useMutation({
    mutationFn: (body: { name: string; role: 'helper' | 'guest' }) =>
      got(changing.POST('/api/network/invitation', { body })),
    onSuccess,
  });
  const withdraw = async () => onSuccess(await got(changing.DELETE('/api/network/invitation', {})));
  const revoke = async (id: string) => {
    const params = { path: { id } };
    onSuccess(await got(changing.DELETE('/api/network/sessions/{id}', { params })));
  };
  const choose = useMutation({
    mutationFn: (body: { certificate: string; key: string }) =>
      got(changing.PUT('/api/network/certificate', { body })),
    onSuccess,
  });
  const forget = async () => onSuccess(await got(changing.DELETE('/api/network/certificate', {})));
  return { network, set, invite, withdraw, revoke, choose, forget };
}

/** What a machine that is not let in yet can know of the workshop. */
export function useDoor() {
  return useQuery({ queryKey: ['door'], queryFn: () => got(api.GET('/api/network/door')) });
}

/** Lets this machine in. */
export function useJoin() {
  return useMutation({
    mutationFn: (code: string) => got(changing.POST('/api/network/join', { body: { code } })),
  });
}
