import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Backups, changing, got } from '../api/client';

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
  return { backups, make, choose };
}
