import type { ReactNode } from 'react';
import type { Piece, ZoneView } from '../../api/client';
import { Failed, Waiting } from '../../parts/Waiting';
import { useBoards } from '../../state/boards';
import { usePieceChoices } from '../../state/piece';
import type { Draft } from '../../state/useDraft';
import { useMixes, usePaints } from '../../state/workspace';
import { chosenOf } from './entry';
import { Wears } from './Wears';

interface Props {
  draft: Draft<Piece>;
  zone: ZoneView;
  zones: ZoneView[];
  /** Shown instead of the zone’s name. */
  heading?: ReactNode;
}

/** What a zone wears, chosen from all that there is to wear. */
export function Dress({ draft, zone, zones, heading }: Props) {
  const boards = useBoards();
  const paints = usePaints();
  const mixes = useMixes();
  const choices = usePieceChoices();
  const failed = [boards, paints, mixes].find((query) => query.isError && !query.data);
  if (failed?.error) return <Failed error={failed.error} retry={() => failed.refetch()} />;
  if (!boards.data || !paints.data || !mixes.data || !choices) return <Waiting rows={6} />;
  return (
    <Wears
      key={`${String(chosenOf(draft.entry))} ${zone.zone} ${String(draft.origin)}`}
      entry={draft.entry}
      zone={zone}
      zones={zones}
      choices={choices}
      boards={boards.data}
      shelf={paints.data}
      mixes={mixes.data}
      heading={heading}
      onShow={draft.show}
      onChange={draft.change}
    />
  );
}
