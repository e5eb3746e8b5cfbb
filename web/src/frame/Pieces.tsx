import { Check, ChevronDown, Plus, ReceiptText, Trash2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useNavigate } from 'react-router';
import { Menu } from '../parts/Menu';
import { useAction } from '../parts/useAction';
import { usePieces } from '../state/piece';
import { useTellDeleted } from '../state/useTellDeleted';

/** Takes another piece to hand, makes or quotes one, deletes one. */
export function Pieces() {
  const { pieces, begin, take, remove } = usePieces();
  const tellDeleted = useTellDeleted();
  const go = useNavigate();
  const { attempt } = useAction();
  const doing = (action: () => Promise<void>, deleted?: { id: string; name: string }) =>
    attempt('Couldn’t do that', async () => {
      await action();
      if (deleted) void tellDeleted(deleted.name, deleted.id);
      void go('/piece');
    });
  const now = pieces.find((piece) => piece.at_hand);
  return (
    <Menu
      button={
        <button
          type="button"
          className="press press-bare px-0"
          aria-label="Switch piece"
          title="Switch piece"
        >
          <ChevronDown size={18} aria-hidden />
        </button>
      }
    >
      {pieces.map((piece) => (
        <DropdownMenu.Item
          key={piece.id}
          className="menu-item"
          onSelect={() => !piece.at_hand && void doing(() => take(piece.id))}
        >
          <span className="w-5">{piece.at_hand && <Check size={18} aria-label="at hand" />}</span>
          <span>
            <span className="block font-semibold">{piece.name}</span>
            {piece.kind && <span className="block text-sm">{piece.kind}</span>}
          </span>
        </DropdownMenu.Item>
      ))}
      <DropdownMenu.Separator className="my-1 h-px bg-line" />
      <DropdownMenu.Item className="menu-item" onSelect={() => void doing(begin)}>
        <Plus size={18} aria-hidden /> New piece
      </DropdownMenu.Item>
      <DropdownMenu.Item className="menu-item" onSelect={() => void go('/quotes')}>
        <ReceiptText size={18} aria-hidden /> Quote a piece
      </DropdownMenu.Item>
      {now && pieces.length > 1 && (
        <DropdownMenu.Item
          className="menu-item"
          onSelect={() => void doing(() => remove(now.id, now.revision), now)}
        >
          <Trash2 size={18} aria-hidden /> Delete {now.name}
        </DropdownMenu.Item>
      )}
    </Menu>
  );
}
