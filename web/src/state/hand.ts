// What a hand does just now: a run of keys on a slider is one gesture, as one drag is.

let byKeys = false;
let isDown = false;

window.addEventListener('keydown', () => (byKeys = true), { capture: true });
window.addEventListener(
  'pointerdown',
  () => {
    byKeys = false;
    isDown = true;
  },
  { capture: true },
);
for (const end of ['pointerup', 'pointercancel'])
  window.addEventListener(end, () => (isDown = false), { capture: true });

/** Whether keys move a slider. */
export const slidesByKeys = () => byKeys && document.activeElement?.getAttribute('role') === 'slider';

/** Whether a pointer is down, or keys move a slider. */
export const handIsOn = () => isDown || slidesByKeys();
