// The demo: looked round in from a new workspace, and left again.

import { useMutation, useQuery } from '@tanstack/react-query';
import { api, got } from '../api/client';

export function useDemo() {
  return useQuery({ queryKey: ['demo'], queryFn: () => got(api.GET('/api/demo')), staleTime: 'static' });
}

export function useVisitDemo() {
  return useMutation({
    mutationFn: () => got(api.POST('/api/demo')),
    onSuccess: ({ url }) => window.location.assign(url),
  });
}
