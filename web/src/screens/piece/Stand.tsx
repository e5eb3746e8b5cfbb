import { Camera } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Piece, PieceChoices, PieceKept } from '../../api/client';
import { Conflict } from '../../common/Conflict';
import { NotPredicted } from '../../common/NotPredicted';
import { useInLights } from '../../light/light';
import { FullScreen } from '../../parts/FullScreen';
import { BY_THE_WINDOW, Lamp } from '../../parts/Lamp';
import { LookClosely } from '../../parts/LookClosely';
import { Panel } from '../../parts/Panel';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { useNarrow } from '../../parts/useNarrow';
import { DRAWN, usePieceCalls, useStanding } from '../../state/piece';
import { usePlace } from '../../state/unsaved';
import { useDraft } from '../../state/useDraft';
import { Begin } from './Begin';
import { Brief } from './Brief';
import { Compare } from './Compare';
import { useChosenZone } from './chosenZone';
import { Dimensions } from './Dimensions';
import { Dress } from './Dress';
import { Elevation } from './Elevation';
import { chosenOf } from './entry';
import { BEFORE_IT, FromCorner, TurnByKeys } from './FromCorner';
import { Over } from './Over';
import { SavePicture } from './SavePicture';
import { Schemes } from './Schemes';
import { Unify } from './Unify';
import { Verdict } from './Verdict';
import { Zones } from './Zones';

interface Props {
  piece: PieceKept;
  choices: PieceChoices;
}

const VIEWS = [
  { id: 'front', name: 'Front' },
  { id: 'side', name: 'Side' },
  { id: 'top', name: 'Top' },
  { id: 'corner', name: 'Corner' },
];

/** A piece: its picture with its parts below, and beside it the verdict and what the chosen part wears. */
export function Stand({ piece, choices }: Props) {
  const calls = usePieceCalls(piece.id);
  const draft = useDraft<Piece, PieceKept>(piece, calls.put, calls.get, calls.saved);
  const { entry } = draft;
  const at = chosenOf(entry);
  const preview = useStanding(entry, at);
  const standing = preview.last;
  useInLights(standing?.lights);
  const [view, setView] = usePlace(`piece ${piece.id} view`, 'front');
  const [from, setFrom] = usePlace(`piece ${piece.id} corner`, BEFORE_IT);
  const [asking, setAsking] = useState<'brief' | 'size'>();
  const [lit, setLit] = useState(BY_THE_WINDOW);
  const [unifying, setUnifying] = useState(false);
  const narrow = useNarrow();

  const zones = standing?.zones ?? [];
  const { zone: chosen, id, choose } = useChosenZone(piece.id, standing);
  const views = VIEWS.filter(({ id }) => id === 'corner' || standing?.faces.some((face) => face.view === id));
  const seen = views.some(({ id }) => id === view) ? view : 'front';
  const turned = seen === 'corner' ? from : undefined;

  const trouble = draft.problem && <TroubleLine>{draft.problem.message}</TroubleLine>;

  if (!entry.form)
    return (
      <>
        {draft.conflict && <Conflict what="piece" conflict={draft.conflict} />}
        {trouble}
        <Begin choices={choices} onBegin={(form) => draft.change({ ...entry, form })} />
      </>
    );

  const actions = (
    <>
      <Compare entry={entry} />
      <button type="button" className="press press-bare px-2 text-sm" onClick={() => setAsking('size')}>
        Dimensions
      </button>
      <button type="button" className="press press-bare px-2 text-sm" onClick={() => setAsking('brief')}>
        Brief
      </button>
      <Link to="/piece/sheet" className="press press-bare px-2 text-sm">
        Client sheet
      </Link>
      <FullScreen title={entry.name}>
        <LookClosely ratio={DRAWN.width / DRAWN.height} beside={<Lamp lit={lit} onChange={setLit} />}>
          {(from) => <Elevation entry={entry} scheme={at} view={seen} turned={turned} at={from} lit={lit} />}
        </LookClosely>
      </FullScreen>
    </>
  );

  return (
    <div className="flex flex-col lg:h-full lg:flex-row">
      <section
        aria-label="What it looks like"
        className="relative flex min-w-0 flex-1 flex-col gap-2 px-4 pb-3 lg:overflow-auto"
      >
        <h1 className="sr-only">{entry.name}</h1>
        <NotPredicted preview={preview} shown={draft.problem?.message} />
        {draft.conflict && <Conflict what="piece" conflict={draft.conflict} />}
        {trouble}
        <div className="flex flex-wrap items-center gap-x-2">
          <Schemes entry={entry} onChange={draft.change} origin={draft.origin}>
            <SavePicture entry={entry} scheme={at} view={seen} turned={turned} />
          </Schemes>
          {views.length > 1 && (
            <Segments
              label="Seen from"
              choices={views}
              value={seen}
              onChange={setView}
              className="flex lg:border-l lg:border-line lg:pl-2"
            />
          )}
          <div className="flex-1" />
          {!narrow && actions}
        </div>
        {unifying ? (
          <Unify
            entry={entry}
            scheme={at}
            picture={(one) => <Elevation entry={one} scheme={at} view="front" />}
            onChange={draft.change}
            onClose={() => setUnifying(false)}
          />
        ) : (
          <>
            {/* As large as the room there is, at its own proportions. */}
            <div className="lg:min-h-80 lg:flex-1 lg:[container-type:size]">
              <div className="relative mx-auto lg:w-[min(100cqw,133.33cqh)]">
                {turned ? (
                  <FromCorner entry={entry} scheme={at} from={turned} onTurn={setFrom} />
                ) : (
                  <Elevation
                    entry={entry}
                    scheme={at}
                    view={seen}
                    face={standing?.faces.find((face) => face.view === seen)}
                    chosen={id}
                    onChoose={choose}
                  />
                )}
                {/* Beside the piece, over the wall or the floor of its picture. */}
                <Link
                  to="/piece/on-photo"
                  className="press press-bare absolute right-0 bottom-0 gap-1.5 bg-ground px-2 text-sm"
                >
                  <Camera size={18} aria-hidden /> On a photo
                </Link>
              </div>
            </div>
            {turned && <TurnByKeys from={turned} onTurn={setFrom} />}
            <Zones zones={zones} chosen={chosen?.zone} onChoose={choose} />
            {narrow && <div className="flex flex-wrap items-center gap-x-2">{actions}</div>}
            <Over entry={entry} zones={zones} onChange={draft.change} />
          </>
        )}
      </section>
      <div className="relative grid content-start gap-4 px-4 pb-4 grid-cols-[minmax(0,1fr)] lg:w-80 lg:shrink-0 lg:overflow-auto lg:pl-0">
        {standing && (
          <Verdict
            entry={entry}
            standing={standing}
            unifying={unifying}
            onUnify={() => setUnifying(!unifying)}
            onChange={draft.change}
          />
        )}
        {chosen && <Dress draft={draft} zone={chosen} zones={zones} />}
      </div>
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
