import { useEffect, useRef } from 'react';
import { STATES, useLight, useLights } from '../light/light';
import { leaveField } from '../state/unsaved';
import { SCREENS } from './screens';

const KEPT_AS = 'warm-blend question-key';

/** Whether the one key without Ctrl or Alt, `?`, is heard: speech input may trip over it. */
export const questionKey = {
  get: () => localStorage.getItem(KEPT_AS) !== 'off',
  set: (on: boolean) => localStorage.setItem(KEPT_AS, on ? 'on' : 'off'),
};

interface KeyActions {
  jump: () => void;
  help: () => void;
  undo: () => void;
  redo: () => void;
}

/** Fields into which nothing is typed. */
const TOUCHED = ['checkbox', 'radio', 'range', 'button', 'submit', 'file', 'color'];

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(TEXTAREA|SELECT)$/.test(target.tagName) ||
    (target instanceof HTMLInputElement && !TOUCHED.includes(target.type)));

type Now = {
  actions: KeyActions;
  goTo: (screen: string) => void;
  light: ReturnType<typeof useLight>;
  lights: ReturnType<typeof useLights>;
};

type Pressed = { key: string; code: string; shift: boolean; command: boolean; alt: boolean; typing: boolean };

function pressed(event: KeyboardEvent): Pressed {
  const typing = isTyping(event.target);
  // Where Alt makes letters of digits (`#` on some keyboards), who types one means it.
  const letter = typing && event.key.length === 1 && !event.code.endsWith(event.key.toUpperCase());
  return {
    key: event.key.toLowerCase(),
    code: event.code,
    shift: event.shiftKey,
    command: event.ctrlKey || event.metaKey,
    alt: event.altKey && !event.getModifierState('AltGraph') && !letter,
    typing,
  };
}

/** The one so many steps further round. */
function further<T extends { id: string }>(choices: readonly T[], id: string, step: number): T | undefined {
  const at = choices.findIndex((choice) => choice.id === id);
  return choices[(at + step + choices.length) % choices.length];
}

function nextLight({ light: { light, setLight }, lights }: Now, step: number) {
  const next = further(lights, light, step);
  if (next) setLight(next.id);
}

function nextState({ light: { state, setState } }: Now) {
  const next = further(STATES, state, 1);
  if (next) setState(next.id);
}

/** The keys that work on every screen; the list of them for people is in Shortcuts. */
const KEYS: { hears: (pressed: Pressed) => boolean; act: (now: Now) => void }[] = [
  { hears: ({ command, key }) => command && key === 'k', act: ({ actions }) => actions.jump() },
  {
    hears: ({ command, key, shift, typing }) => command && key === 'z' && !shift && !typing,
    act: ({ actions }) => actions.undo(),
  },
  {
    hears: ({ command, key, shift, typing }) => command && ((key === 'z' && shift) || key === 'y') && !typing,
    act: ({ actions }) => actions.redo(),
  },
  ...SCREENS.map(({ to }, n) => ({
    hears: ({ alt, code }: Pressed) => alt && code === `Digit${n + 1}`,
    act: ({ goTo }: Now) => {
      leaveField();
      goTo(to);
    },
  })),
  { hears: ({ alt, code }) => alt && code === 'KeyW', act: nextState },
  { hears: ({ alt, code, shift }) => alt && code === 'KeyL' && !shift, act: (now) => nextLight(now, 1) },
  { hears: ({ alt, code, shift }) => alt && code === 'KeyL' && shift, act: (now) => nextLight(now, -1) },
  {
    hears: ({ key, command, typing }) => key === '?' && !command && !typing && questionKey.get(),
    act: ({ actions }) => actions.help(),
  },
];

/** Listens to the keys. */
export function useKeys(actions: KeyActions, goTo: (screen: string) => void) {
  const light = useLight();
  const lights = useLights();
  const now = useRef<Now>({ actions, goTo, light, lights });
  now.current = { actions, goTo, light, lights };

  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      const heard = pressed(event);
      const key = KEYS.find(({ hears }) => hears(heard));
      if (!key) return;
      event.preventDefault();
      key.act(now.current);
    };
    window.addEventListener('keydown', hear);
    return () => window.removeEventListener('keydown', hear);
  }, []);
}
