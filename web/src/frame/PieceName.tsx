import { useQueryClient } from '@tanstack/react-query';
import { changing, got } from '../api/client';
import { NameInPlace } from '../parts/NameInPlace';
import { useTell } from '../parts/Notice';
import { why } from '../parts/useAction';
import { show } from '../state/cache';
import { usePiece, useRefresh } from '../state/workspace';

/** The piece at hand, renamed in place. */
export function PieceName() {
  const piece = usePiece();
  const client = useQueryClient();
  const refresh = useRefresh();
  const tell = useTell();
  const kept = piece.data?.name ?? '';
  const keep = async (name: string) => {
    if (!piece.data) return;
    const { id, revision } = piece.data;
    const params = { path: { id }, query: { revision } };
    try {
      await show(
        client,
        ['piece'],
        await got(changing.PUT('/api/pieces/{id}/name', { params, body: { name } })),
      );
    } catch (error) {
      tell(`Couldn’t save the name: ${why(error)}`, 'stays');
      throw error;
    } finally {
      refresh();
    }
  };
  return (
    <NameInPlace
      label="Piece"
      kept={kept}
      onKeep={keep}
      size={Math.max(12, Math.min(kept.length, 30))}
      className="shrink font-semibold max-md:flex-1"
    />
  );
}
