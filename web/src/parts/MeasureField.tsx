import { useRef, useState } from 'react';
import { Problem } from '../api/client';
import { useReadMeasure } from '../state/measured';
import { Field } from './Field';

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
  const [text, setText] = useState(said);
  const [wrong, setWrong] = useState<string>();
  // What counts already, and what stood there before: what is said anew takes the place of what was typed.
  const counted = useRef(said);
  const [before, setBefore] = useState(said);
  if (said !== before) {
    setBefore(said);
    setText(said);
    counted.current = said;
  }
  const leave = async () => {
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
  return (
    <Field
      label={label}
      value={text}
      onChange={setText}
      onBlur={() => void leave()}
      onKeyDown={(event) => event.key === 'Enter' && void leave()}
      {...(placeholder ? { placeholder } : {})}
      error={wrong ?? error}
    />
  );
}
