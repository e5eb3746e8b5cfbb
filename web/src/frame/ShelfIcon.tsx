/** Three tins on a board. */
export function ShelfIcon({ size }: { size: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth={2}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
    >
      <path d="M2 19h20M4 19v-8h4v8M10 19V7h4.5v12M16.5 19v-6H20v6" />
    </svg>
  );
}
