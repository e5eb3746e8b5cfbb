import { Switch } from 'radix-ui';
import { useId, useState } from 'react';
import { SCREENS } from './screens';
import { questionKey } from './useKeys';

const KEYS: [string, string][] = [
  ['Ctrl K', 'Find a screen, paint, mix or light'],
  ['Alt 1 to 6', SCREENS.map(({ name }) => name).join(', ')],
  ['Alt L', 'Next light (add Shift for the previous one)'],
  ['Alt W', 'Next of wet, dry, sealed, buffed'],
  ['Ctrl Z', 'Undo'],
  ['Ctrl Shift Z', 'Redo'],
  ['↑ ↓', 'In a parts box: one more, one less'],
  ['← →', 'On the bar: move one part to the next paint'],
  ['Alt ↑, Alt ↓', 'On a layer: move it up or down'],
  ['Esc', 'Close, or cancel a rename'],
  ['?', 'This list'],
];

/** The list of keys. */
export function Shortcuts() {
  const [heard, setHeard] = useState(questionKey.get);
  const id = useId();
  return (
    <>
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-5 gap-y-2">
        {KEYS.map(([keys, action]) => (
          <div key={keys} className="contents">
            <dt>
              <kbd className="rounded bg-paper px-2 py-1 font-sans font-semibold whitespace-nowrap">
                {keys}
              </kbd>
            </dt>
            <dd>{action}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-4 text-sm text-soft">On a Mac, ⌘ serves as Ctrl.</p>
      <div className="mt-4 flex items-center justify-between border-t border-line pt-4">
        <label htmlFor={id}>Open this list with the ? key</label>
        <Switch.Root
          id={id}
          checked={heard}
          onCheckedChange={(on) => {
            questionKey.set(on);
            setHeard(on);
          }}
          className="h-7 w-12 rounded-full bg-edge p-0.5 cursor-pointer data-[state=checked]:bg-ink"
        >
          <Switch.Thumb className="block size-6 rounded-full bg-white transition-transform data-[state=checked]:translate-x-5" />
        </Switch.Root>
      </div>
    </>
  );
}
