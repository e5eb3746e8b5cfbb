import type { ReactNode } from 'react';

interface Props {
  name: string;
  className?: string;
  children: ReactNode;
}

/** The name of a choice above it, for the eye: the choice has it for whoever listens. */
export function Named({ name, className = '', children }: Props) {
  return (
    <div className={`grid gap-1 *:min-w-0 ${className}`}>
      <span aria-hidden className="text-sm font-semibold">
        {name}
      </span>
      {children}
    </div>
  );
}
