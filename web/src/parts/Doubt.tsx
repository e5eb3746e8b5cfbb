import { deltaE } from './numbers';

/** How far a colour may be off: `±4.1`, said as “within 4.1”. */
export function Doubt({ value }: { value: number }) {
  return (
    <span className="whitespace-nowrap">
      <span aria-hidden>±{deltaE(value)}</span>
      <span className="sr-only">within {deltaE(value)}</span>
    </span>
  );
}

/** A doubt as a length, out of what a guess is: short is sure. */
export function DoubtBar({ value, after }: { value: number; after?: number }) {
  const wide = (v: number) => `${Math.min(100, Math.round((v / 12) * 100))}%`;
  return (
    <span aria-hidden className="relative block h-2 w-full bg-ground">
      <span className="absolute inset-y-0 left-0 bg-line" style={{ width: wide(value) }} />
      {after !== undefined && (
        <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: wide(after) }} />
      )}
    </span>
  );
}
