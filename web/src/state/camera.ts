// The camera at hand: a stand-in that comes with the demo.

import { useQuery } from '@tanstack/react-query';
import { api, got } from '../api/client';

export function useCamera() {
  const camera = useQuery({
    queryKey: ['camera'],
    queryFn: () => got(api.GET('/api/camera')),
    staleTime: 'static',
  });
  const take = async (scene: string) =>
    fileOf(
      scene,
      await got(api.GET('/api/camera/{scene}', { params: { path: { scene } }, parseAs: 'blob' })),
    );
  const example = async () =>
    fileOf('example', await got(api.GET('/api/example-photo', { parseAs: 'blob' })));
  return { camera: camera.data, take, example };
}

const fileOf = (name: string, taken: unknown) =>
  new File([taken as Blob], `${name}.png`, { type: 'image/png' });
