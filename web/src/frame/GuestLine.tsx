import { useMe } from '../state/network';

/** Says that a guest only looks. */
export function GuestLine() {
  if (useMe().data?.role !== 'guest') return null;
  return (
    <aside aria-label="Guest" className="bg-ink px-4 py-2 text-white on-dark print:hidden">
      <p>You are looking as a guest. Try whatever you like: nothing you change is kept.</p>
    </aside>
  );
}
