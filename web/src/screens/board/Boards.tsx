import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { BoardInList, Paint, Problem } from '../../api/client';
import { useLook } from '../../light/light';
import { Field } from '../../parts/Field';
import { PaintPicker } from '../../parts/PaintPicker';
import { Picker } from '../../parts/Picker';
import { useDeed } from '../../parts/useDeed';
import { useBoardCalls, type useBoardChoices } from '../../state/boards';

interface Props {
  boards: BoardInList[];
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  shelf: Paint[];
  /** True where the address names a board that is not there. */
  gone: boolean;
}

/** All boards, and the way to begin one. */
export function Boards({ boards, choices, shelf, gone }: Props) {
  const look = new URLSearchParams(useLook()).toString();
  return (
    <div className="grid max-w-6xl gap-x-8 gap-y-4 px-4 pb-6 pt-2 md:px-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <section aria-label="Boards" className="grid content-start gap-3">
        <h1 className="text-3xl">Sample boards</h1>
        {gone && <p className="font-medium">That board is not here any more; undo may bring it back.</p>}
        {boards.length === 0 && (
          <p className="max-w-prose text-soft">
            A small board shows what the whole piece will look like, before a brush is wet. Begin one: choose
            what it lies on and a finish to start from.
          </p>
        )}
        <ul className="grid gap-3 sm:grid-cols-2">
          {boards.map((board) => (
            <li key={board.id}>
              <Link to={`/board/${board.id}`} className="grid bg-panel hover:bg-paper">
                <img
                  src={`/api/boards/${board.id}/picture?${look}&width=520&height=260&revision=${board.revision}`}
                  width={520}
                  height={260}
                  alt=""
                  className="h-auto w-full"
                  style={{ background: board.hexes[0] }}
                />
                <span className="p-3">
                  <span className="block font-semibold">{board.name}</span>
                  <span className="block text-sm text-soft">
                    {board.strips.length > 1 ? `Strips ${board.strips.join(', ')}` : 'One strip'}
                  </span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      <Begin choices={choices} shelf={shelf} />
    </div>
  );
}

function Begin({ choices, shelf }: Pick<Props, 'choices' | 'shelf'>) {
  const [name, setName] = useState('');
  const [ground, setGround] = useState('red-stain');
  const [template, setTemplate] = useState('aged');
  const [base, setBase] = useState('any');
  const [problem, setProblem] = useState<Problem>();
  const calls = useBoardCalls();
  const go = useNavigate();
  const { attempt, busy } = useDeed();
  const begin = async () => {
    const board = await attempt(
      'The board was not created',
      () =>
        calls.make(
          name.trim() || 'new board',
          ground,
          template === 'none' ? null : template,
          base === 'any' ? null : base,
        ),
      setProblem,
    );
    if (board) go(`/board/${board.id}`);
  };
  const paints = shelf.filter((paint) => !paint.medium);
  const wide = 'w-full';
  return (
    <section aria-label="New board" className="grid content-start gap-3">
      <h2 className="text-2xl">New board</h2>
      <Field
        label="Name"
        value={name}
        onChange={setName}
        placeholder="aged case"
        onKeyDown={(event) => {
          if (event.key === 'Enter') void begin();
        }}
        error={problem?.at('/name')}
      />
      <div className="grid gap-1 text-sm font-semibold">
        Start from
        <Picker
          label="Start from"
          className={wide}
          choices={[...choices.templates, { id: 'none', name: 'Nothing: a bare ground' }]}
          value={template}
          onChange={setTemplate}
        />
      </div>
      <p className="-mt-2 text-sm text-soft">{choices.templates.find(({ id }) => id === template)?.note}</p>
      {template !== 'none' && (
        <div className="grid gap-1 text-sm font-semibold">
          Main colour
          <PaintPicker
            label="Main colour"
            className={wide}
            choices={[
              { id: 'any', name: 'Paint you have most of' },
              ...paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch })),
            ]}
            value={base}
            onChange={setBase}
          />
        </div>
      )}
      <div className="grid gap-1 text-sm font-semibold">
        Surface
        <Picker
          label="Surface"
          className={wide}
          choices={choices.grounds}
          value={ground}
          onChange={setGround}
        />
      </div>
      {problem && !problem.at('/name') && (
        <p role="alert" className="font-medium text-alarm first-letter:uppercase">
          {problem.message}
        </p>
      )}
      <button type="button" className="press press-ink" disabled={busy} onClick={begin}>
        <Plus size={18} aria-hidden /> Create board
      </button>
    </section>
  );
}
