import type { ComponentProps } from 'react';
import { Slide } from './Slide';

interface Props extends Omit<ComponentProps<typeof Slide>, 'className'> {
  name: string;
  /** How wide what it says may become: the line must not move under the hand. */
  room?: 'w-10' | 'w-14';
}

/** A slider between what it is and what it says. */
export function SlideRow({ name, room = 'w-10', ...slide }: Props) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-24 text-sm font-semibold">{name}</span>
      <Slide {...slide} className="min-w-0 flex-1" />
      <span className={`${room} text-right text-sm`}>{slide.shown}</span>
    </div>
  );
}
