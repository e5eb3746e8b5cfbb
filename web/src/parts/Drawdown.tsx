import { memo } from 'react';
import type { Drawn } from '../api/client';

const wedge = (codes: string[]) => ({ backgroundImage: `linear-gradient(to right, ${codes.join(', ')})` });

/** Flakes shine in streaks, as they do at the mirror angle; between them the paint is as dull as it is. */
const shine = ({ glint }: { glint: string }) => ({
  backgroundImage: `linear-gradient(105deg, transparent 8%, ${glint} 16%, transparent 24%, transparent 38%, ${glint} 44%, transparent 52%)`,
});

/** A small drawdown, without lustre. */
export function Wedge({ look }: { look: Pick<Drawn, 'over_white' | 'over_black'> }) {
  return (
    <span aria-hidden className="flex size-full flex-col">
      <span className="flex-1" style={wedge(look.over_white)} />
      <span className="flex-1" style={wedge(look.over_black)} />
    </span>
  );
}

/**
 * A drawdown as the engine computed it: a film from thick (left) to a wash (right), over white above and black below.
 * It says nothing to a screen reader: the name beside it does. Drawn anew only when its colours change: a screen holds
 * dozens while one mix follows the hand.
 */
export const Drawdown = memo(
  ({ swatch, className = '' }: { swatch: Drawn | undefined; className?: string }) => {
    const lustre = swatch?.lustre;
    return (
      <span aria-hidden className={`relative flex flex-col overflow-hidden ${className}`}>
        <span className="flex-1 bg-panel" style={swatch && wedge(swatch.over_white)} />
        <span className="flex-1 bg-line" style={swatch && wedge(swatch.over_black)} />
        {lustre && <span className="absolute inset-0" style={{ ...shine(lustre), opacity: lustre.share }} />}
      </span>
    );
  },
);
