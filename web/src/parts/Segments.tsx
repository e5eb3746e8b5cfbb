import { ToggleGroup } from 'radix-ui';

interface Props<T extends string> {
  label: string;
  choices: readonly { id: T; name: string; title?: string }[];
  value: T;
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
    <ToggleGroup.Root
      type="single"
      value={value}
      onValueChange={(next) => next && onChange(next as T)}
      aria-label={label}
      className={`gap-x-1 ${className}`}
    >
      {choices.map((choice) => (
        <ToggleGroup.Item
          key={choice.id}
          value={choice.id}
          title={choice.title}
          className="h-11 border-y-2 border-transparent px-2 text-sm font-medium text-soft whitespace-nowrap cursor-pointer hover:text-ink data-[state=on]:border-b-ink data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {choice.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
