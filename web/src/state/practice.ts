// Practice: what can be practised, questions, answers.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, type EyeSkill, got } from '../api/client';

const KEY = ['practice'];

export const usePractice = () =>
  useQuery({ queryKey: KEY, queryFn: () => got(api.GET('/api/practice')), staleTime: 0 });

export interface Asked {
  skill: EyeSkill;
  level: number;
  seed: number;
}

/** A question: the same one for the same numbers. */
export const useQuestion = (asked: Asked) =>
  useQuery({
    queryKey: ['question', asked],
    queryFn: () => got(api.GET('/api/practice/question', { params: { query: asked } })),
    staleTime: 'static',
    retry: false,
  });

export function useAnswer() {
  const client = useQueryClient();
  return async (asked: Asked, choice: number) => {
    const checked = await got(changing.POST('/api/practice/answers', { body: { ...asked, choice } }));
    void client.invalidateQueries({ queryKey: KEY });
    return checked;
  };
}
