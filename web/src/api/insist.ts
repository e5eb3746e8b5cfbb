// Changes are asked for until they are answered. Each has a key of its own: asked for twice under one key, it is made once.

import { Problem } from './problem';

/** The header that carries the key. */
export const KEY = 'Idempotency-Key';

/** How long is waited before it is asked for again, ms. */
const WAITS = [250, 700, 1500];

/** Keys of this page’s own changes. */
const own = new Set<string>();

/** A key for one change. */
export function newKey(): string {
  const key = crypto.randomUUID();
  own.add(key);
  return key;
}

/** Sent under a key. */
export const under = (key: string) => ({ headers: { [KEY]: key } });

/** Whether this page asked for the change. */
export const isOwn = (key: string) => own.has(key);

/** Statuses that may be another the next time, whoever answered. */
const PASSING = [408, 425, 429, 502, 503, 504];

/** Whether an answer says nothing of the change: what stands between here and the program gave it, or it is busy. */
function isPassing(answer: Response) {
  const ours = answer.headers.get('content-type')?.startsWith('application/problem+json') ?? false;
  return PASSING.includes(answer.status) || (!ours && (answer.status >= 500 || answer.status === 413));
}

/** The same of what was made of an answer: also of what the program cannot keep just now, such as on a full disk. */
export const mayPass = (error: unknown) =>
  !(error instanceof Problem) || error.body.status >= 500 || PASSING.includes(error.body.status);

/** An answer that has come to its end: one that breaks off is none. */
async function whole(answer: Promise<Response>): Promise<Response> {
  const came = await answer;
  const body = await came.arrayBuffer();
  const { status, statusText, headers } = came;
  return new Response(body.byteLength > 0 ? body : null, { status, statusText, headers });
}

/** Sends a change, and again where no answer came. */
export async function insist(change: Request, send: (request: Request) => Promise<Response>) {
  if (!change.headers.has(KEY)) change.headers.set(KEY, newKey());
  for (const wait of WAITS) {
    const answer = await whole(send(change.clone())).catch(() => undefined);
    if (answer && !isPassing(answer)) return answer;
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
  return send(change);
}
