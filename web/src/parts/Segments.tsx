import { RadioGroup } from 'radix-ui';

interface Props<T extends string> {
  label: string;
  choices: readonly { id: T; name: string; title?: string }[];
  /** Empty while none is taken. */
  value: T | '';
  onChange: (value: T) => void;
  className?: string;
}

/** A few choices side by side, one of them taken. */
export function Segments<T extends string>({
  label,
  choices,
  value,
  onChange,
  className = 'flex',
}: Props<T>) {
  return (
    <RadioGroup.Root
      value={value}
      onValueChange={(next) => onChange(next as T)}
      aria-label={label}
      className={`gap-x-1 ${className}`}
    >
      {choices.map((choice) => (
        <RadioGroup.Item
          key={choice.id}
          value={choice.id}
          title={choice.title}
          className="h-11 border-y-2 border-transparent px-2 text-sm font-medium text-soft whitespace-nowrap cursor-pointer hover:text-ink data-[state=checked]:border-b-ink data-[state=checked]:font-semibold data-[state=checked]:text-ink"
        >
          {choice.name}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
