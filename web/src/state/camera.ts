// The camera at hand: a stand-in that comes with the demo.

import { useQuery } from '@tanstack/react-query';
import { api, got } from '../api/client';

export function useCamera() {
  const camera = useQuery({
    queryKey: ['camera'],
    queryFn: () => got(api.GET('/api/camera')),
    staleTime: 'static',
  });
  const take = async (scene: string) => {
    const taken = await got(api.GET('/api/camera/{scene}', { params: { path: { scene } }, parseAs: 'blob' }));
    return new File([taken as unknown as Blob], `${scene}.png`, { type: 'image/png' });
  };
  const example = async () => {
    const taken = await got(api.GET('/api/example-photo', { parseAs: 'blob' }));
    return new File([taken as unknown as Blob], 'example.png', { type: 'image/png' });
  };
  return { camera: camera.data, take, example };
}
