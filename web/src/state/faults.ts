// What is right about an entry of which some is wrong.

interface Fault {
  /** JSON pointer (RFC 6901). */
  pointer: string;
}

type Tree = Record<string, unknown>;

const isTree = (value: unknown): value is Tree =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** `entry` with what is at fault as it is kept; none where that leaves nothing new, or the faults have no place of their own. */
export function withoutFaults<E>(entry: E, kept: E, faults: readonly Fault[]): E | undefined {
  if (faults.length === 0 || faults.some(({ pointer }) => !pointer.startsWith('/'))) return undefined;
  const rest = structuredClone(entry);
  for (const { pointer } of faults) {
    const path = pointer.slice(1).split('/').map(unescaped);
    if (!restore(rest, kept, path)) return undefined;
  }
  return JSON.stringify(rest) === JSON.stringify(kept) ? undefined : rest;
}

const unescaped = (segment: string) => segment.replaceAll('~1', '/').replaceAll('~0', '~');

/** Puts what is kept at a path back; false where both are not of one shape down to it. */
function restore(into: unknown, kept: unknown, path: string[]): boolean {
  const [first, ...deeper] = path;
  if (first === undefined || !isTree(into) || !isTree(kept)) return false;
  // Of a list nobody knows which belongs to which: it is put back whole.
  if (deeper.length > 0 && isTree(into[first]) && isTree(kept[first]))
    return restore(into[first], kept[first], deeper);
  if (first in kept) into[first] = structuredClone(kept[first]);
  else delete into[first];
  return true;
}
