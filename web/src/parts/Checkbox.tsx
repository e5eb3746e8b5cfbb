import type { ReactNode } from 'react';

interface Props {
  checked: boolean;
  onChange: (checked: boolean) => void;
  children: ReactNode;
  className?: string;
}

/** A box to tick, with its words beside it. */
export function Checkbox({ checked, onChange, children, className = '' }: Props) {
  return (
    <label className={`flex min-h-11 items-center gap-2 ${className}`}>
      <input
        type="checkbox"
        className="size-5 accent-ink"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  );
}
