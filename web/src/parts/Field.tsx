import { type ComponentProps, type ReactNode, useId } from 'react';

interface Props extends Omit<ComponentProps<'input'>, 'onChange'> {
  label: string;
  value: string;
  onChange: (text: string) => void;
  hint?: ReactNode;
  error?: string | undefined;
  unit?: string;
}

/** A labelled text field with its hint and, where something is wrong, what and what to do. */
export function Field({ label, value, onChange, hint, error, unit, className = '', ...rest }: Props) {
  const id = useId();
  return (
    <div className={`grid content-start gap-1 ${className}`}>
      <label htmlFor={id} className="text-sm font-semibold">
        {label}
        {unit && <span className="font-normal text-soft">, {unit}</span>}
      </label>
      <input
        {...rest}
        id={id}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="field"
        autoComplete="off"
        aria-invalid={error !== undefined}
        aria-describedby={error || hint ? `${id}-about` : undefined}
      />
      {(error || hint) && (
        <p
          id={`${id}-about`}
          className={`text-sm ${error ? 'font-medium text-alarm first-letter:uppercase' : 'text-soft'}`}
        >
          {error ?? hint}
        </p>
      )}
    </div>
  );
}
