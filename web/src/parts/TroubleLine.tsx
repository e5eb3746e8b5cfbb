import type { ReactNode } from 'react';

interface Props {
  /** A sentence that says what to do. */
  children: ReactNode;
  /** Where a field says what is wrong with it. */
  id?: string;
  className?: string;
}

/** What went wrong, in the line where it did. It is announced once. */
export function TroubleLine({ children, id, className = '' }: Props) {
  return (
    <p id={id} role="alert" className={`font-medium text-alarm first-letter:uppercase ${className}`}>
      {children}
    </p>
  );
}
