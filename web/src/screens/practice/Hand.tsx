import { Brush } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { useAction } from '../../parts/useAction';
import { useBoardCalls, useBoards } from '../../state/boards';

/** The finish that the card is begun with. */
const CARD = 'practice-card';
const NAME = 'practice card';

/** A card for the hand: strips for load and pressure to paint, to be read back on its board. */
export function Hand() {
  const calls = useBoardCalls();
  const boards = useBoards().data ?? [];
  const go = useNavigate();
  const { attempt, busy } = useAction();
  const card = boards.find(({ name }) => name === NAME);
  const begin = async () => {
    const made = await attempt('Couldn’t make the card', () => calls.make(NAME, 'white-primer', CARD, null));
    if (made) void go(`/board/${made.id}/card`);
  };
  return (
    <section aria-label="Your hand" className="grid justify-items-start gap-3">
      <h2 className="text-2xl">Your hand</h2>
      <p className="text-sm text-soft">
        Six strips to paint: how much paint is on the brush, how hard you wipe. The card shows how each should
        look. Read back what you painted, and the program says which way your hand goes, and allows for it.
      </p>
      {card ? (
        <Link to={`/board/${card.id}/card`} className="press press-plain">
          <Brush size={18} aria-hidden /> Open the practice card
        </Link>
      ) : (
        <button type="button" className="press press-plain" disabled={busy} onClick={() => void begin()}>
          <Brush size={18} aria-hidden /> Make a practice card
        </button>
      )}
    </section>
  );
}
