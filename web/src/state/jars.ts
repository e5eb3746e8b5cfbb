// What is left of pots, in jars.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, got, type JarView, type MixEntry } from '../api/client';
import { useLook, useUnits } from '../light/light';
import { ofTheSame } from './cache';
import { useMe } from './network';
import { usePreview } from './preview';
import { refresh } from './workspace';

/** What is entered about a jar. */
export interface JarEntry {
  left_ml: number;
  place: string | null;
  client: string | null;
  signs: string[];
}

const useQueryOfJars = () => ({ ...useLook(), units: useUnits() });

/** Jars name clients: a guest, who may be another client, is not shown them. */
const useMaySee = () => useMe().data?.role !== 'guest';

/** All jars with something in them, those to see to first. */
export function useJars() {
  const query = useQueryOfJars();
  return useQuery({
    queryKey: ['jars', query],
    queryFn: () => got(api.GET('/api/jars', { params: { query } })),
    placeholderData: keepPreviousData,
    enabled: useMaySee(),
  });
}

/** The jar of a pot, where there is one. */
export function useJar(id: string, there: boolean) {
  const query = useQueryOfJars();
  return useQuery({
    queryKey: ['jar', id, query],
    queryFn: () => got(api.GET('/api/pours/{id}/jar', { params: { path: { id }, query } })),
    placeholderData: ofTheSame(id),
    enabled: there,
  });
}

export function useJarLabels(measure: string) {
  const query = { ...useLook(), measure };
  return useQuery({
    queryKey: ['jar labels', query],
    queryFn: () => got(api.GET('/api/jars/labels', { params: { query } })),
    placeholderData: keepPreviousData,
  });
}

/** Jars near a target, as they are or with a little added. */
export function useJarsNear(target: MixEntry['target']) {
  const query = useQueryOfJars();
  const enabled = useMaySee() && target != null;
  return usePreview({
    queryKey: ['jars near', query, target],
    queryFn: ({ signal }) =>
      got(api.POST('/api/jars/near', { params: { query }, body: { target: target ?? {} }, signal })),
    enabled,
  });
}

export function useJarCalls(id: string) {
  const query = useQueryOfJars();
  const client = useQueryClient();
  const params = { path: { id }, query };
  const seen = async (jar: JarView) => {
    await refresh(client);
    return jar;
  };
  return {
    keep: async (body: JarEntry) => seen(await got(changing.PUT('/api/pours/{id}/jar', { params, body }))),
    /** Sent again with the same id it counts once. */
    take: async (use: string, ml: number) =>
      seen(await got(changing.POST('/api/pours/{id}/jar/uses', { params, body: { id: use, ml } }))),
    throwAway: async () => seen(await got(changing.DELETE('/api/pours/{id}/jar', { params }))),
  };
}
