import { memo } from 'react';
import type { Swatch } from '../api/client';

const wedge = (codes: string[]) => ({ backgroundImage: `linear-gradient(to right, ${codes.join(', ')})` });

/**
 * A drawdown as the engine computed it: a film from thick (left) to a wash (right), over white above and black below.
 * It says nothing to a screen reader: the name beside it does. Drawn anew only when its colours change: a screen holds
 * dozens while one mix follows the hand.
 */
export const Drawdown = memo(
  ({ swatch, className = '' }: { swatch: Swatch | undefined; className?: string }) => {
    return (
      <span aria-hidden className={`flex flex-col overflow-hidden ${className}`}>
        <span className="flex-1 bg-panel" style={swatch && wedge(swatch.over_white)} />
        <span className="flex-1 bg-line" style={swatch && wedge(swatch.over_black)} />
      </span>
    );
  },
);
