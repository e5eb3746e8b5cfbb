import { useRef, useState } from 'react';
import { Problem } from '../api/client';
import { Field } from '../parts/Field';
import { useTyped } from '../parts/useTyped';
import { useReadMeasure } from '../state/measured';

interface Props {
  label: string;
  measured: 'length' | 'run' | 'area';
  /** What stands there: `36 1/2 in`. */
  said: string;
  placeholder?: string;
  error: string | undefined;
  /** In mm, m or m². */
  onChange: (value: number) => void;
  onEmpty?: () => void;
}

/** A length or an area, typed in any unit; it counts when the field is left. */
export function MeasureField({ label, measured, said, placeholder, error, onChange, onEmpty }: Props) {
  const read = useReadMeasure(measured);
  const [wrong, setWrong] = useState<string>();
  // What counts already.
  const counted = useRef(said);
  const leave = async (text: string) => {
    setWrong(undefined);
    if (text === counted.current) return;
    if (text.trim() === '') return onEmpty ? onEmpty() : setText(said);
    try {
      const { value, said: now } = await read(text);
      setText(now);
      counted.current = now;
      onChange(value);
    } catch (error) {
      setWrong((error instanceof Problem && error.at('?text')) || 'not read: try it again');
    }
  };
  const { text, setText, leaving } = useTyped(
    said,
    (text) => void leave(text),
    () => {
      counted.current = said;
    },
  );
  return (
    <Field
      label={label}
      value={text}
      onChange={setText}
      {...leaving}
      {...(placeholder ? { placeholder } : {})}
      error={wrong ?? error}
    />
  );
}
