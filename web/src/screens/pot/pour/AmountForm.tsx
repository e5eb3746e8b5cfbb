import { useId, useState } from 'react';
import { misread, type Scale, typed } from '../../../parts/numbers';

interface Props {
  label: string;
  placeholder: string;
  /** May be typed after the amount. */
  unit: string | Scale;
  /** What the button says. */
  action: string;
  ink?: boolean;
  /** True once it was taken: the field is emptied. */
  onGive: (amount: number) => Promise<boolean>;
}

/** An amount that is typed. */
export function AmountForm({ label, placeholder, unit, action, ink = false, onGive }: Props) {
  const [text, setText] = useState('');
  const number = typed(text, unit);
  const wrong = misread(text, unit);
  const shown = useId();
  return (
    <form
      className="flex flex-wrap gap-2"
      onSubmit={async (event) => {
        event.preventDefault();
        if (number != null && (await onGive(number))) setText('');
      }}
    >
      <input
        aria-label={label}
        aria-invalid={wrong !== undefined}
        aria-describedby={wrong && shown}
        inputMode="decimal"
        placeholder={placeholder}
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="field min-w-0 flex-1"
        autoComplete="off"
      />
      <button
        type="submit"
        className={`press ${ink ? 'press-ink' : 'press-plain'}`}
        disabled={number == null}
      >
        {action}
      </button>
      {wrong && (
        <p id={shown} className="w-full text-sm font-medium">
          {wrong}
        </p>
      )}
    </form>
  );
}
