import { Command } from 'cmdk';
import { Check, ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Swatch } from '../api/client';
import { Drawdown } from './Drawdown';
import { NoMatches, SoughtList } from './SoughtList';

export interface PaintChoice<T extends string = string> {
  id: T;
  name: string;
  /** How it looks; what has no colour of its own has none. */
  swatch?: Swatch | null | undefined;
}

interface Props<T extends string> {
  label: string;
  choices: readonly PaintChoice<T>[];
  value: string;
  onChange: (value: NoInfer<T>) => void;
  /** What it says while nothing is chosen. */
  placeholder?: string;
  className?: string;
}

/** A paint, a mix, a piece or whatever else has a name: type a few letters of it, or look down the list. */
export function PaintPicker<T extends string>({
  label,
  choices,
  value,
  onChange,
  placeholder = 'Choose a colour',
  className = '',
}: Props<T>) {
  const [open, setOpen] = useState(false);
  const chosen = choices.find((choice) => choice.id === value);
  const coloured = choices.some((choice) => choice.swatch);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        role="combobox"
        aria-label={label}
        aria-haspopup="listbox"
        aria-expanded={open}
        className={`press press-plain shrink-0 justify-between ${className}`}
      >
        {chosen?.swatch && <Drawdown swatch={chosen.swatch} className="h-7 w-10 shrink-0" />}
        <span className="min-w-0 flex-1 truncate text-left">{chosen?.name ?? placeholder}</span>
        <ChevronDown size={16} aria-hidden className="shrink-0" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={label}
          className="z-50 flex max-h-[min(26rem,var(--radix-popover-content-available-height))] w-[min(22rem,94vw)] flex-col rounded bg-paper p-1 shadow-lg"
        >
          <SoughtList label={label} placeholder="A few letters of its name">
            {choices.map((choice) => (
              <Command.Item
                key={choice.id}
                value={choice.id}
                keywords={[choice.name]}
                className="menu-item"
                onSelect={() => {
                  setOpen(false);
                  onChange(choice.id);
                }}
              >
                {coloured &&
                  (choice.swatch ? (
                    <Drawdown swatch={choice.swatch} className="h-9 w-14 shrink-0" />
                  ) : (
                    <span aria-hidden className="w-14 shrink-0" />
                  ))}
                <bdi className="min-w-0 flex-1 truncate">{choice.name}</bdi>
                {choice.id === value && <Check size={18} aria-label="chosen" className="shrink-0" />}
              </Command.Item>
            ))}
            <NoMatches />
          </SoughtList>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
