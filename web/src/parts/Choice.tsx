import { getNonce } from 'get-nonce';
import { Check } from 'lucide-react';
import { Select } from 'radix-ui';
import type { ReactNode } from 'react';

/** The list that drops from a select. */
export function Choices({ children }: { children: ReactNode }) {
  return (
    <Select.Portal>
      <Select.Content
        position="popper"
        sideOffset={4}
        collisionPadding={8}
        className="z-50 flex max-h-[var(--radix-select-content-available-height)] flex-col overflow-hidden rounded bg-paper p-1 shadow-lg"
      >
        <Select.Viewport nonce={getNonce() ?? ''} className="min-h-0">
          {children}
        </Select.Viewport>
      </Select.Content>
    </Select.Portal>
  );
}

/** One line of it. */
export function Choice({ value, name }: { value: string; name: string }) {
  return (
    <Select.Item
      value={value}
      className="flex h-11 items-center gap-2 rounded-xs pl-2 pr-4 cursor-pointer outline-none data-[highlighted]:bg-ink data-[highlighted]:text-white"
    >
      <span className="w-5">
        <Select.ItemIndicator>
          <Check size={18} aria-hidden />
        </Select.ItemIndicator>
      </span>
      <Select.ItemText>{name}</Select.ItemText>
    </Select.Item>
  );
}
