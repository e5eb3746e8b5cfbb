import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { STATES, useLight, useLights } from '../light/light';

const KEPT_AS = 'warm-blend question-key';

/** Whether the one key without Ctrl or Alt, `?`, is heard: speech input may trip over it. */
export const questionKey = {
  get: () => localStorage.getItem(KEPT_AS) !== 'off',
  set: (on: boolean) => localStorage.setItem(KEPT_AS, on ? 'on' : 'off'),
};

interface Deeds {
  jump: () => void;
  help: () => void;
  undo: () => void;
  redo: () => void;
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Alt and a digit, in the order of the rail. */
const SCREENS: Record<string, string> = {
  Digit1: '/piece',
  Digit2: '/shelf',
  Digit3: '/pot',
  Digit4: '/board',
};

/** The keys that work on every screen; the list of them is in Shortcuts. */
export function useKeys(deeds: Deeds) {
  const go = useNavigate();
  const { light, setLight, state, setState } = useLight();
  const lights = useLights();
  const now = useRef({ deeds, go, light, setLight, lights, state, setState });
  now.current = { deeds, go, light, setLight, lights, state, setState };

  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      const { deeds, go, light, setLight, lights, state, setState } = now.current;
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const screen = SCREENS[event.code];
      // Where Alt makes letters of digits (`#` on some keyboards), who types one means it.
      const alt =
        event.altKey &&
        !event.getModifierState('AltGraph') &&
        !(isTyping(event.target) && event.key.length === 1 && !event.code.endsWith(event.key.toUpperCase()));
      const deed =
        command && key === 'k'
          ? deeds.jump
          : command && key === 'z' && !isTyping(event.target)
            ? event.shiftKey
              ? deeds.redo
              : deeds.undo
            : command && key === 'y' && !isTyping(event.target)
              ? deeds.redo
              : alt && screen
                ? () => go(screen)
                : alt && event.code === 'KeyL'
                  ? () => {
                      const at = lights.findIndex((choice) => choice.id === light);
                      const step = event.shiftKey ? lights.length - 1 : 1;
                      const next = lights[(at + step) % lights.length];
                      if (next) setLight(next.id);
                    }
                  : alt && event.code === 'KeyW'
                    ? () => {
                        const at = STATES.findIndex((choice) => choice.id === state);
                        const next = STATES[(at + 1) % STATES.length];
                        if (next) setState(next.id);
                      }
                    : event.key === '?' && !command && !isTyping(event.target) && questionKey.get()
                      ? deeds.help
                      : undefined;
      if (!deed) return;
      event.preventDefault();
      deed();
    };
    window.addEventListener('keydown', hear);
    return () => window.removeEventListener('keydown', hear);
  }, []);
}
