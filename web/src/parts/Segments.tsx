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
      className={`rounded bg-panel p-0.5 ${className}`}
    >
      {choices.map((choice) => (
        <ToggleGroup.Item
          key={choice.id}
          value={choice.id}
          title={choice.title}
          className="h-11 rounded-xs px-2.5 text-sm font-medium text-soft whitespace-nowrap cursor-pointer hover:bg-paper data-[state=on]:bg-ink data-[state=on]:text-white"
        >
          {choice.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
