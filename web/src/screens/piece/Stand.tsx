import { ClipboardList, Expand, Printer, Ruler } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BoardInList, Mix, Paint, Piece, PieceChoices, PieceKept } from '../../api/client';
import { Conflict } from '../../parts/Conflict';
import { FullScreen } from '../../parts/FullScreen';
import { NotPredicted } from '../../parts/NotPredicted';
import { Panel } from '../../parts/Panel';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { usePieceCalls, useStanding } from '../../state/piece';
import { usePlace } from '../../state/unsaved';
import { useDraft } from '../../state/useDraft';
import { Begin } from './Begin';
import { Brief } from './Brief';
import { Compare } from './Compare';
import { Dimensions } from './Dimensions';
import { Elevation } from './Elevation';
import { chosenOf } from './entry';
import { FromClose } from './FromClose';
import { Over } from './Over';
import { Palette } from './Palette';
import { SavePicture } from './SavePicture';
import { Schemes } from './Schemes';
import { Unify } from './Unify';
import { Wears } from './Wears';
import { Zones } from './Zones';

interface Props {
  piece: PieceKept;
  choices: PieceChoices;
  boards: BoardInList[];
  shelf: Paint[];
  mixes: Mix[];
}

const VIEWS = [
  { id: 'front', name: 'Front' },
  { id: 'side', name: 'Side' },
  { id: 'top', name: 'Top' },
];

/** A piece: its zones on the left, the elevation in the middle, how its parts stand to each other on the right. */
export function Stand({ piece, choices, boards, shelf, mixes }: Props) {
  const calls = usePieceCalls(piece.id);
  const draft = useDraft<Piece, PieceKept>(piece, calls.put, calls.get, calls.saved);
  const { entry } = draft;
  const at = chosenOf(entry);
  const preview = useStanding(entry, at);
  const standing = preview.last;
  const [view, setView] = usePlace(`piece ${piece.id} view`, 'front');
  const [zone, setZone] = usePlace<string | undefined>(`piece ${piece.id} zone`, undefined);
  const [asking, setAsking] = useState<'brief' | 'size'>();
  const [unifying, setUnifying] = useState(false);

  const zones = standing?.zones ?? [];
  const chosen = zones.find((one) => one.zone === zone) ?? zones.find((one) => one.seen);
  const views = VIEWS.filter(({ id }) => standing?.faces.some((face) => face.view === id));
  const seen = views.some(({ id }) => id === view) ? view : 'front';

  const trouble = draft.problem && <TroubleLine>{draft.problem.message}</TroubleLine>;

  if (!entry.form)
    return (
      <>
        {draft.conflict && <Conflict what="piece" conflict={draft.conflict} />}
        {trouble}
        <Begin choices={choices} onBegin={(form) => draft.change({ ...entry, form })} />
      </>
    );

  return (
    <div className="flex flex-col lg:h-full lg:flex-row">
      <section
        aria-label="What it looks like"
        className="relative flex min-w-0 flex-1 flex-col gap-2 px-4 pt-1 pb-3 lg:order-2 lg:overflow-auto"
      >
        <h1 className="sr-only">{entry.name}</h1>
        <NotPredicted preview={preview} shown={draft.problem?.message} />
        {draft.conflict && <Conflict what="piece" conflict={draft.conflict} />}
        {trouble}
        <Schemes entry={entry} onChange={draft.change} origin={draft.origin}>
          <Compare entry={entry} />
          <SavePicture entry={entry} scheme={at} view={seen} />
          <FullScreen
            title={entry.name}
            trigger={
              <button type="button" className="press press-bare px-0" aria-label="Full screen">
                <Expand size={20} aria-hidden />
              </button>
            }
          >
            <FromClose entry={entry} scheme={at} view={seen} />
          </FullScreen>
        </Schemes>
        {unifying ? (
          <Unify entry={entry} scheme={at} onChange={draft.change} onClose={() => setUnifying(false)} />
        ) : (
          <>
            <Elevation
              entry={entry}
              scheme={at}
              view={seen}
              face={standing?.faces.find((face) => face.view === seen)}
              chosen={zone}
              onChoose={(id) => setZone(id)}
            />
            <div className="flex flex-wrap items-center gap-2">
              {views.length > 1 && (
                <Segments
                  label="Seen from"
                  choices={views}
                  value={seen}
                  onChange={setView}
                  className="inline-flex"
                />
              )}
              <div className="flex-1" />
              <button type="button" className="press press-bare text-sm" onClick={() => setAsking('size')}>
                <Ruler size={18} aria-hidden /> Dimensions
              </button>
              <button type="button" className="press press-bare text-sm" onClick={() => setAsking('brief')}>
                <ClipboardList size={18} aria-hidden /> Brief
              </button>
              <Link to="/piece/sheet" className="press press-bare text-sm">
                <Printer size={18} aria-hidden /> Client sheet
              </Link>
            </div>
            <Over entry={entry} zones={zones} onChange={draft.change} />
          </>
        )}
      </section>
      <section
        aria-label="Zones"
        className="relative grid content-start gap-3 px-4 pt-1 pb-4 grid-cols-[minmax(0,1fr)] lg:order-1 lg:w-68 lg:shrink-0 lg:overflow-auto lg:pr-0"
      >
        <Zones zones={zones} chosen={chosen?.zone} onChoose={setZone} />
        {chosen && (
          <Wears
            key={`${at} ${chosen.zone} ${draft.origin}`}
            entry={entry}
            zone={chosen}
            zones={zones}
            choices={choices}
            boards={boards}
            shelf={shelf}
            mixes={mixes}
            onShow={draft.show}
            onChange={draft.change}
          />
        )}
      </section>
      <section
        aria-label="Palette"
        className="relative px-4 pb-4 pt-1 lg:order-3 lg:w-74 lg:shrink-0 lg:overflow-auto lg:pl-0"
      >
        {standing && (
          <Palette
            entry={entry}
            standing={standing}
            unifying={unifying}
            onUnify={() => setUnifying(!unifying)}
            onChange={draft.change}
          />
        )}
      </section>
      <Panel
        open={asking === 'size'}
        onClose={() => setAsking(undefined)}
        title="Dimensions"
        className="w-[min(46rem,94vw)]"
      >
        <Dimensions
          entry={entry}
          standing={standing}
          choices={choices}
          problem={draft.problem}
          onChange={draft.change}
        />
      </Panel>
      <Panel open={asking === 'brief'} onClose={() => setAsking(undefined)} title="Brief">
        <Brief
          key={draft.origin}
          entry={entry}
          problem={draft.problem}
          onType={draft.type}
          onChange={draft.change}
        />
      </Panel>
    </div>
  );
}
