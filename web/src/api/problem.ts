// An answer that was a problem (RFC 9457).

import type { components } from './schema';

export type ProblemBody = components['schemas']['Problem'];

type Kind = 'join' | 'stale' | 'overtaken' | 'in-use' | 'invalid' | 'unknown' | 'percent' | 'source' | 'done';

export class Problem extends Error {
  constructor(readonly body: ProblemBody) {
    super(body.detail);
  }

  is(kind: Kind) {
    return this.body.type === `urn:warm-blend:${kind}`;
  }

  /** What is wrong with one field, if anything is. */
  at(pointer: string) {
    return this.body.errors?.find((error) => error.pointer === pointer)?.detail;
  }
}
