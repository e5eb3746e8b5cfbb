import { Ellipsis, type LucideIcon } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Menu } from '../parts/Menu';

export interface Tool {
  id: string;
  name: string;
  icon: LucideIcon;
  /** A word under the sign. */
  shown: string;
  act: () => void;
  off?: boolean;
  /** Who has it, unless everybody: the painter at the workshop’s machine alone, or helpers too. */
  for?: 'painter' | 'helper';
}

/** Whether somebody has a tool; the painter has no role. */
export const isFor = (tool: Tool, role: 'helper' | 'guest' | null | undefined) =>
  !tool.for || !role || tool.for === role;

/** What is in reach on every screen: in a column of the rail, or behind one button where the rail lies at the foot. */
export function Tools({ tools }: { tools: Tool[] }) {
  return (
    <>
      <div className="hidden items-center pb-2 md:flex md:flex-col">
        {tools.map(({ id, name, icon: Icon, shown, act, off = false }) => (
          <button
            key={id}
            type="button"
            title={name}
            aria-label={name}
            disabled={off}
            onClick={act}
            className="press w-full flex-col gap-0 px-0 text-sm font-medium hover:not-disabled:text-white"
          >
            <Icon size={20} aria-hidden />
            {shown}
          </button>
        ))}
      </div>
      <Menu
        side="top"
        align="end"
        button={
          <button
            type="button"
            className="grid min-h-15 min-w-13 place-items-center content-center gap-1 text-xs font-medium md:hidden"
            aria-label="More"
          >
            <Ellipsis size={24} aria-hidden />
            More
          </button>
        }
      >
        {tools.map(({ id, name, icon: Icon, act, off = false }) => (
          <DropdownMenu.Item key={id} className="menu-item" disabled={off} onSelect={act}>
            <Icon size={20} aria-hidden /> {name}
          </DropdownMenu.Item>
        ))}
      </Menu>
    </>
  );
}
