import { ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import type { ReactNode } from 'react';
import { Choice, Choices } from './Choice';

interface Props<T extends string> {
  label: string;
  choices: readonly { id: T; name: string }[];
  value: string;
  onChange: (value: NoInfer<T>) => void;
  icon?: ReactNode;
  /** What it says while nothing is chosen. */
  placeholder?: string;
  className?: string;
}

/** One of a list, with its label only for screen readers: what is chosen says enough. */
export function Picker<T extends string>({
  label,
  choices,
  value,
  onChange,
  icon,
  placeholder,
  className = '',
}: Props<T>) {
  return (
    <Select.Root value={value} onValueChange={(next) => onChange(next as T)}>
      <Select.Trigger
        aria-label={label}
        className={`press press-plain shrink-0 justify-between text-left leading-tight ${className}`}
      >
        {icon}
        <Select.Value placeholder={placeholder} />
        <Select.Icon>
          <ChevronDown size={16} aria-hidden />
        </Select.Icon>
      </Select.Trigger>
      <Choices>
        {choices.map((choice) => (
          <Choice key={choice.id} value={choice.id} name={choice.name} />
        ))}
      </Choices>
    </Select.Root>
  );
}
