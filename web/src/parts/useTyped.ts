import { type KeyboardEvent, useState } from 'react';

/**
 * The text of a field that commits when you leave it or press Enter; Escape restores it. A new value from outside, such as from undo,
 * replaces what was typed, and `onSaid` hears of it.
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
