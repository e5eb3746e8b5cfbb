import { Popover } from 'radix-ui';
import { Checkbox } from '../../parts/Checkbox';
import { useWorkshop, useWorkshopCalls } from '../../state/workshop';
import { MEASURES } from './measures';

/** Which spoons, cups and syringes there are: batches are measured in these only. */
export function SpoonsAtHand() {
  const owned = useWorkshop().data?.entry.owned ?? [];
  const { own } = useWorkshopCalls();
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-6 cursor-pointer font-semibold text-ink underline underline-offset-3">
        My measures
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="My measures"
          className="z-40 grid w-72 gap-2 rounded-md bg-ground p-4 shadow-2xl"
        >
          <p className="text-sm">
            {owned.length === 0 ? 'Tick the measures you own:' : 'Batches are measured with these:'}
          </p>
          <div className="grid grid-cols-2">
            {MEASURES.map(({ id, name }) => (
              <Checkbox
                key={id}
                checked={owned.includes(id)}
                onChange={(on) => own(on ? [...owned, id] : owned.filter((other) => other !== id))}
              >
                {name}
              </Checkbox>
            ))}
          </div>
          <Popover.Close className="press press-ink justify-self-end">Done</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
