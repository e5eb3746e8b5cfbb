import { Lightbulb } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Segments } from './Segments';
import { Slide } from './Slide';

/** By which light a relief is shaded. */
export interface Lit {
  shading: 'soft' | 'raking' | 'none';
  /** From which side, degrees clockwise from above. */
  lamp: number;
}

/** As by a window, up on the left. */
export const BY_THE_WINDOW: Lit = { shading: 'soft', lamp: 320 };

const SHADINGS = [
  { id: 'soft', name: 'Window' },
  { id: 'raking', name: 'Raking' },
  { id: 'none', name: 'None' },
] as const;

const SIDES = [
  'above',
  'the upper right',
  'the right',
  'the lower right',
  'below',
  'the lower left',
  'the left',
  'the upper left',
];

const fromSide = (degrees: number) => `from ${SIDES[Math.round(degrees / 45) % 8]}`;

interface Props {
  lit: Lit;
  onChange: (lit: Lit) => void;
}

/** Where the light comes from: a raking one shows every stroke, and without shadows colours can be judged. */
export function Lamp({ lit, onChange }: Props) {
  return (
    <Popover.Root>
      <Popover.Trigger className="press press-plain text-sm">
        <Lightbulb size={18} aria-hidden /> Shadows
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          aria-label="Shadows"
          className="z-60 grid w-72 gap-2 rounded-md bg-ground p-4 shadow-2xl"
        >
          <Segments
            label="Light on the surface"
            choices={SHADINGS}
            value={lit.shading}
            onChange={(shading) => onChange({ ...lit, shading })}
          />
          {lit.shading === 'none' ? (
            <p className="text-sm">Colours as they are, for judging.</p>
          ) : (
            <div>
              <p className="flex justify-between text-sm">
                <span className="font-semibold">Light from</span>
                <span>{fromSide(lit.lamp)}</span>
              </p>
              <Slide
                label="Light from"
                shown={fromSide(lit.lamp)}
                value={lit.lamp}
                from={0}
                to={360}
                step={5}
                onShow={(lamp) => onChange({ ...lit, lamp })}
              />
            </div>
          )}
          <Popover.Close className="press press-ink justify-self-end">Done</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
