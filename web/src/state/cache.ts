// What is kept, as it is written into the cache of answers.

import type { Query, QueryClient, QueryKey } from '@tanstack/react-query';

/** Shows what is kept now: no answer that is still under way takes its place. */
export async function show<T>(
  client: QueryClient,
  queryKey: QueryKey,
  now: T | ((before: T | undefined) => T | undefined),
) {
  await client.cancelQueries({ queryKey, exact: true });
  client.setQueryData<T>(queryKey, now);
}

/** Until the answer is there, what was shown of the same thing stays, as in another light; never that of another thing. */
export const ofTheSame =
  (id: string | undefined) =>
  <T>(before: T | undefined, asked: Query<T> | undefined): T | undefined =>
    asked?.queryKey[1] === id ? before : undefined;
