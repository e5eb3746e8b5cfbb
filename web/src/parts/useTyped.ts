import { type KeyboardEvent, useState } from 'react';

/**
 * What stands in a field that counts when it is left, or at Enter. What is said anew, such as by undo, takes the place of what was typed.
 */
export function useTyped(said: string, leave: (text: string) => void, onSaid?: () => void) {
  const [text, setText] = useState(said);
  const [before, setBefore] = useState(said);
  if (said !== before) {
    setBefore(said);
    setText(said);
    onSaid?.();
  }
  return {
    text,
    setText,
    leaving: {
      onBlur: () => leave(text),
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key === 'Enter') leave(text);
        if (event.key === 'Escape') setText(said);
      },
    },
  };
}
