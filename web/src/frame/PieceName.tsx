import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, got } from '../api/client';
import { useTell } from '../parts/Notice';
import { why } from '../parts/useDeed';
import { usePiece, useRefresh } from '../state/workspace';

/** The piece at hand, renamed in place. */
export function PieceName() {
  const piece = usePiece();
  const client = useQueryClient();
  const refresh = useRefresh();
  const tell = useTell();
  const [name, setName] = useState('');
  const left = useRef(false);
  const kept = piece.data?.name ?? '';
  useEffect(() => setName(kept), [kept]);

  const keep = async () => {
    if (!piece.data || left.current || name === kept) return;
    try {
      const { id, revision } = piece.data;
      const params = { path: { id }, query: { revision } };
      client.setQueryData(['piece'], await got(api.PUT('/api/pieces/{id}/name', { params, body: { name } })));
    } catch (error) {
      setName(kept);
      tell(`The name was not saved: ${why(error)}`);
    }
    refresh();
  };

  return (
    <input
      aria-label="Piece"
      value={name}
      title={name}
      size={Math.max(12, Math.min(name.length, 30))}
      onChange={(event) => setName(event.target.value)}
      onFocus={() => {
        left.current = false;
      }}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          left.current = true;
          setName(kept);
          event.currentTarget.blur();
        }
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
      className="h-11 min-w-0 shrink truncate rounded bg-transparent px-2 font-semibold hover:bg-panel focus:bg-paper"
    />
  );
}
