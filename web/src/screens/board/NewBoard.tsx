import { Plus } from 'lucide-react';
import { type Ref, useState } from 'react';
import { useNavigate } from 'react-router';
import type { GroundKind, Problem } from '../../api/client';
import { MainColour } from '../../common/MainColour';
import { Field } from '../../parts/Field';
import { Picker } from '../../parts/Picker';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction } from '../../parts/useAction';
import { useBoardCalls, type useBoardChoices } from '../../state/boards';

/** What a board is begun with. */
export interface Begun {
  ground: GroundKind;
  /** A finish to start from, or `none`. */
  template: string;
  /** The main colour, or `any`. */
  base: string;
}

interface Props {
  ref: Ref<HTMLElement>;
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  begun: Begun;
  onChange: (part: Partial<Begun>) => void;
}

/** The way to begin a board. */
export function NewBoard({ ref, choices, begun: { ground, template, base }, onChange }: Props) {
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<Problem>();
  const calls = useBoardCalls();
  const go = useNavigate();
  const { attempt, busy } = useAction();
  const begin = async () => {
    const board = await attempt(
      'Couldn’t create the board',
      () =>
        calls.make(
          name.trim() || 'new board',
          ground,
          template === 'none' ? null : template,
          base === 'any' ? null : base,
        ),
      setProblem,
    );
    if (board) void go(`/board/${board.id}`);
  };
  const wide = 'w-full';
  return (
    <section ref={ref} aria-label="New board" className="grid content-start gap-3 lg:sticky lg:top-2">
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
          choices={[...choices.templates, { id: 'none', name: 'No finish, bare ground' }]}
          value={template}
          onChange={(id) => onChange({ template: id })}
        />
      </div>
      <p className="-mt-2 text-sm text-soft">{choices.templates.find(({ id }) => id === template)?.note}</p>
      {template !== 'none' && (
        <MainColour
          label="Main colour"
          base={base === 'any' ? null : base}
          onChange={(base) => onChange({ base: base ?? 'any' })}
        />
      )}
      <div className="grid gap-1 text-sm font-semibold">
        Surface
        <Picker
          label="Surface"
          className={wide}
          choices={choices.grounds}
          value={ground}
          onChange={(id) => onChange({ ground: id })}
        />
      </div>
      {problem && !problem.at('/name') && <TroubleLine>{problem.message}</TroubleLine>}
      <button
        type="button"
        data-mark="create board"
        className="press press-ink"
        disabled={busy}
        onClick={begin}
      >
        <Plus size={18} aria-hidden /> Create board
      </button>
    </section>
  );
}
