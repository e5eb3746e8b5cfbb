import { DropdownMenu } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';

interface Props {
  /** The button that opens it. */
  button: ReactElement;
  /** Whether it stands under the button's beginning or its end. */
  align?: 'start' | 'end';
  side?: 'top' | 'bottom';
  /** Asked when it closes: true where the focus has gone elsewhere than back to the button. */
  takesFocus?: () => boolean;
  children: ReactNode;
}

/** What can be chosen behind a button. */
export function Menu({ button, align = 'start', side = 'bottom', takesFocus, children }: Props) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{button}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          side={side}
          align={align}
          sideOffset={4}
          onCloseAutoFocus={(event) => {
            if (takesFocus?.()) event.preventDefault();
          }}
          className="z-50 max-w-[92vw] rounded bg-paper p-1 text-ink shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
