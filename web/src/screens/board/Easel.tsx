import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Board, BoardKept, Mix, Paint } from '../../api/client';
import { Conflict } from '../../common/Conflict';
import { NotPredicted } from '../../common/NotPredicted';
import { useLook } from '../../light/light';
import { BY_THE_WINDOW } from '../../parts/Lamp';
import { NameInPlace } from '../../parts/NameInPlace';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction } from '../../parts/useAction';
import { useNarrow } from '../../parts/useNarrow';
import { useBoardCalls, type useBoardChoices, useStrip } from '../../state/boards';
import { usePlace } from '../../state/unsaved';
import { useDraft } from '../../state/useDraft';
import { useTellDeleted } from '../../state/useTellDeleted';
import { cured, stripOf } from './entry';
import { Layers } from './Layers';
import { Picture } from './Picture';
import { Places } from './Places';
import { ReadBoard } from './ReadBoard';
import { Rescue } from './Rescue';
import { Schools } from './Schools';
import { View } from './View';

/** What stands beside the picture where there is room, else below it. */
const BESIDE = [
  { id: 'places', name: 'Flat, recess, edge' },
  { id: 'reading', name: 'Read the real board' },
  { id: 'schools', name: 'Other methods' },
  { id: 'rescue', name: 'Fix a problem' },
] as const;

type Beside = (typeof BESIDE)[number]['id'];

interface Props {
  board: BoardKept;
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  shelf: Paint[];
  mixes: Mix[];
}

/** One board: its layers on the left, what it will look like on the right. */
export function Easel({ board, choices, shelf, mixes }: Props) {
  const calls = useBoardCalls();
  const go = useNavigate();
  const tellDeleted = useTellDeleted();
  const { attempt } = useAction();
  const draft = useDraft<Board, BoardKept>(board, calls.put(board.id), calls.get(board.id), calls.saved);
  const { entry } = draft;
  const [chosen, setChosen] = usePlace(`board ${board.id} strip`, 'A');
  const letter = stripOf(entry, chosen)?.letter ?? 'A';
  const [step, setStep] = useState<number>();
  const [open, setOpen] = usePlace<string | undefined>(`board ${board.id} layer`, undefined);
  const [beside, setBeside] = usePlace<Beside>(`board ${board.id} beside`, 'places');
  const look = useLook();
  const preview = useStrip(entry, letter, step);
  const strip = preview.last;
  const count = strip?.layers.length ?? 0;
  const narrow = useNarrow();
  const on = step === undefined ? undefined : Math.min(step, count);

  const remove = () =>
    attempt('Couldn’t delete the board', async () => {
      await calls.remove(board);
      void tellDeleted(entry.name, board.id);
      void go('/board');
    });

  return (
    <div className="flex flex-col-reverse lg:h-full lg:flex-row">
      <section
        aria-label="Layers"
        className="relative flex min-h-0 shrink-0 flex-col gap-2 px-4 pt-1 pb-4 lg:w-[25rem] lg:overflow-auto"
      >
        {draft.conflict && <Conflict what="board" conflict={draft.conflict} />}
        <div className="flex items-start gap-2">
          <NameInPlace
            key={draft.origin}
            label="Name of the board"
            kept={entry.name}
            onKeep={(name) => draft.change({ ...entry, name })}
            className="flex-1 font-display text-xl font-semibold"
          />
          <button
            type="button"
            className="press press-bare px-0"
            aria-label="Delete this board"
            onClick={remove}
          >
            <Trash2 size={20} aria-hidden />
          </button>
        </div>
        {draft.problem && <TroubleLine>{draft.problem.message}</TroubleLine>}
        {narrow && open && (
          // What a change does is seen while it is made.
          <div className="sticky top-0 z-10 -mx-4">
            <Picture
              entry={entry}
              letter={letter}
              layers={on}
              lit={BY_THE_WINDOW}
              all={false}
              small
              width={840}
              alt={`Strip ${letter} while a layer is changed`}
            />
          </div>
        )}
        <Layers
          key={letter}
          entry={entry}
          letter={letter}
          strip={strip}
          choices={choices}
          shelf={shelf}
          mixes={mixes}
          onShow={draft.show}
          onChange={draft.change}
          onFix={(fix) => draft.change(cured(entry, fix))}
          open={open}
          onOpen={setOpen}
        />
        <div className="flex items-center gap-2">
          <span className="text-sm font-semibold">On</span>
          <Picker
            label="Surface"
            choices={choices.grounds}
            value={entry.ground.kind}
            onChange={(kind) => draft.change({ ...entry, ground: { kind, colour: null } })}
          />
          <Link to="/board" className="press press-bare text-sm">
            All boards
          </Link>
        </div>
      </section>
      <section
        aria-label="What it will look like"
        className="relative grid min-w-0 flex-1 content-start gap-2 px-4 pt-1 pb-4 md:px-5 lg:overflow-auto"
      >
        <h1 className="sr-only">{entry.name}</h1>
        <NotPredicted preview={preview} shown={draft.problem?.message} />
        <div
          className={`grid content-start gap-2 ${beside === 'places' ? '' : 'xl:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] xl:gap-x-5'}`}
        >
          <div className="grid content-start gap-2">
            <View
              board={board.id}
              entry={entry}
              letter={letter}
              onChoose={setChosen}
              onChange={draft.change}
              strip={strip}
              count={count}
              step={on}
              onStep={setStep}
              open={open}
              small={beside !== 'places'}
            />
          </div>
          <div className="grid min-w-0 content-start gap-2">
            <Segments
              label="Beside the picture"
              className="inline-flex flex-wrap"
              choices={BESIDE}
              value={beside}
              onChange={setBeside}
            />
            {strip && beside === 'places' && <Places strip={strip} entry={entry} />}
            {beside === 'schools' && <Schools entry={entry} letter={letter} onChange={draft.change} />}
            {beside === 'rescue' && (
              <Rescue entry={entry} letter={letter} choices={choices} onChange={draft.change} />
            )}
            {strip && beside === 'reading' && (
              <ReadBoard key={letter} board={board.id} letter={letter} state={look.state} strip={strip} />
            )}
          </div>
        </div>
      </section>
    </div>
  );
}
