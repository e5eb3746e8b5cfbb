import { useState } from 'react';
import { Field } from './Field';
import { misread, plainNumber, typed } from './numbers';

interface Props {
  label: string;
  unit?: string | undefined;
  value: number | undefined;
  placeholder?: string;
  error: string | undefined;
  onChange: (value: number) => void;
  onEmpty?: () => void;
}

/** A number that counts when the field is left. */
export function NumberField({ label, unit, value, placeholder, error, onChange, onEmpty }: Props) {
  const said = value === undefined ? '' : plainNumber(value);
  const [text, setText] = useState(said);
  const [wrong, setWrong] = useState<string>();
  // What is said anew, such as by undo, takes the place of what was typed.
  const [before, setBefore] = useState(said);
  if (said !== before) {
    setBefore(said);
    setText(said);
    setWrong(undefined);
  }
  const leave = () => {
    const number = typed(text, unit);
    setWrong(misread(text, unit));
    if (text === said) return;
    if (number === null) onEmpty?.();
    else if (number !== undefined && number !== value) onChange(number);
  };
  return (
    <Field
      label={label}
      {...(unit ? { unit } : {})}
      value={text}
      onChange={setText}
      onBlur={leave}
      onKeyDown={(event) => event.key === 'Enter' && leave()}
      inputMode="decimal"
      {...(placeholder ? { placeholder } : {})}
      error={wrong ?? error}
    />
  );
}
