import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Backups, changing, got } from '../api/client';
import { asBytes } from './files';
import { refresh } from './workspace';

const queryKey = ['backups'];

/** Backups and where they go: asked for now and then, because they are made without being asked for. */
export function useBackups() {
  const client = useQueryClient();
  const onSuccess = (backups: Backups) => {
    client.setQueryData(queryKey, backups);
    void client.invalidateQueries({ queryKey: ['notices'] });
  };
  const backups = useQuery({
    queryKey,
    queryFn: () => got(api.GET('/api/backups')),
    refetchInterval: 30_000,
  });
  const make = useMutation({
    mutationFn: () => got(changing.POST('/api/backups', {})),
    onSuccess,
    // What failed is written down there.
    onError: () => void client.invalidateQueries({ queryKey }),
  });
  const choose = useMutation({
    mutationFn: (folder: string | null) => got(changing.PUT('/api/backups/folder', { body: { folder } })),
    onSuccess,
  });
  const goBackTo = async (name: string) => {
    const params = { path: { name } };
    const done = await got(changing.POST('/api/backups/{name}/restore', { params }));
    onSuccess(done.backups);
    await refresh(client);
    return done;
  };
  return { backups, make, choose, goBackTo };
}

/** Which version stays where both workspaces have changed something. */
export type VersionKept = 'newer' | 'mine' | 'theirs';

/** Archives: the whole workspace as one file, and others taken in. */
export function useArchive() {
  const client = useQueryClient();
  return {
    preview: (file: File) => got(api.POST('/api/archive/preview', { body: file as never, ...asBytes })),
    takeIn: async (file: File, stays: VersionKept) => {
      const params = { query: { stays } };
      const done = await got(changing.POST('/api/archive', { params, body: file as never, ...asBytes }));
      await refresh(client);
      return done;
    },
  };
}

/** What was deleted lately. */
export function useTrash() {
  const client = useQueryClient();
  const trash = useQuery({ queryKey: ['trash'], queryFn: () => got(api.GET('/api/trash')) });
  const bringBack = async (id: string) => {
    await got(changing.POST('/api/trash/{id}', { params: { path: { id } } }));
    await refresh(client);
  };
  return { trash, bringBack };
}
