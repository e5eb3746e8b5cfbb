import { useState } from 'react';
import { Field } from './Field';
import { inScale, misread, plainNumber, type Scale, typed, unitOf } from './numbers';
import { useTyped } from './useTyped';

interface Props {
  label: string;
  unit?: string | Scale | undefined;
  value: number | undefined;
  placeholder?: string;
  error: string | undefined;
  onChange: (value: number) => void;
  onEmpty?: () => void;
}

/** A number that counts when the field is left. */
export function NumberField({ label, unit, value, placeholder, error, onChange, onEmpty }: Props) {
  const shown = (number: number) => (typeof unit === 'object' ? inScale(number, unit) : plainNumber(number));
  const said = value === undefined ? '' : shown(value);
  const [wrong, setWrong] = useState<string>();
  const leave = (text: string) => {
    const number = typed(text, unit);
    setWrong(misread(text, unit));
    if (text === said) return;
    if (number === null) onEmpty?.();
    else if (number !== undefined && number !== value) onChange(number);
  };
  const { text, setText, leaving } = useTyped(said, leave, () => setWrong(undefined));
  return (
    <Field
      label={label}
      {...(unit ? { unit: unitOf(unit) } : {})}
      value={text}
      onChange={setText}
      {...leaving}
      inputMode="decimal"
      {...(placeholder ? { placeholder } : {})}
      error={wrong ?? error}
    />
  );
}
