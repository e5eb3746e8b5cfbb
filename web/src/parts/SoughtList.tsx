import { Command } from 'cmdk';
import type { ReactNode } from 'react';

/** Every word that is typed must stand somewhere in the name. */
function matches(_id: string, sought: string, keywords: string[] = []): number {
  const name = keywords.join(' ').toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => name.includes(word))
    ? 1
    : 0;
}

/** A field, and below it the list of what has its words. Keys walk the list while the field keeps the focus. */
export function SoughtList({
  label,
  placeholder,
  children,
}: {
  label: string;
  placeholder: string;
  children: ReactNode;
}) {
  return (
    <Command label={label} filter={matches} loop className="flex min-h-0 flex-col">
      <Command.Input aria-label={label} placeholder={placeholder} className="field shrink-0" />
      <Command.List label="Found" className="mt-1 min-h-0 overflow-auto">
        {children}
      </Command.List>
    </Command>
  );
}

/** Where nothing has the words. */
export function NoMatches() {
  return <Command.Empty className="p-2 text-soft">No matches.</Command.Empty>;
}
