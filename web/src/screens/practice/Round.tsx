import { useEffect, useRef, useState } from 'react';
import type { AnswerChecked, Pane, Question, SkillView } from '../../api/client';
import { keyed } from '../../parts/keyed';
import { useAction } from '../../parts/useAction';
import { Failed } from '../../parts/Waiting';
import { useAnswer, useQuestion } from '../../state/practice';

/** Questions of a round: about a minute. */
const QUESTIONS = 8;

/** Names of choices that are nothing but a colour, from left to right. */
const PLACES = ['first', 'second', 'third', 'fourth'];

const chance = () => Math.floor(Math.random() * 2 ** 31);

/** A round of questions of one skill. */
export function Round({ skill, onEnd }: { skill: SkillView; onEnd: () => void }) {
  const [asked, setAsked] = useState(() => ({ skill: skill.skill, level: skill.level, seed: chance() }));
  const [given, setGiven] = useState<boolean[]>([]);
  const [checked, setChecked] = useState<AnswerChecked & { chosen: number }>();
  const question = useQuestion(asked);
  const answer = useAnswer();
  const { attempt, busy } = useAction();
  const choose = async (chosen: number) => {
    const now = await attempt('Couldn’t check the answer', () => answer(asked, chosen));
    if (!now) return;
    setChecked({ ...now, chosen });
    setGiven((before) => [...before, now.right]);
  };
  const goOn = () => {
    if (!checked) return;
    setAsked({ skill: skill.skill, level: checked.level, seed: chance() });
    setChecked(undefined);
  };
  const over = given.length >= QUESTIONS && !checked;
  const right = given.filter(Boolean).length;
  return (
    <section aria-label={skill.name} className="grid max-w-5xl content-start gap-4 px-4 pt-2 pb-6 md:px-5">
      <div className="flex items-center justify-between gap-3">
        <h1 className="text-2xl">{skill.name}</h1>
        <button type="button" className="press press-bare" onClick={onEnd}>
          {over ? 'Back to practice' : 'Stop'}
        </button>
      </div>
      {over ? (
        <div className="grid justify-items-start gap-3">
          <p className="font-display text-3xl font-semibold">
            {right} of {given.length} right
          </p>
          <p className="text-soft">Level {asked.level + 1} now. Progress shows on the list.</p>
          <button type="button" className="press press-ink" onClick={() => setGiven([])}>
            Another round
          </button>
        </div>
      ) : (
        <>
          <Score given={given} />
          {question.error && <Failed error={question.error} retry={() => void question.refetch()} />}
          {question.data && (
            <Asked
              question={question.data}
              checked={checked}
              busy={busy}
              onChoose={(chosen) => void choose(chosen)}
              onNext={goOn}
              last={given.length >= QUESTIONS}
            />
          )}
        </>
      )}
    </section>
  );
}

function Score({ given }: { given: boolean[] }) {
  const right = given.filter(Boolean).length;
  return (
    <p className="flex items-center gap-1" role="status">
      <span className="sr-only">
        {given.length} of {QUESTIONS} answered, {right} right
      </span>
      {Array.from({ length: QUESTIONS }, (_, n) => `question ${n + 1}`).map((key, n) => (
        <span
          key={key}
          aria-hidden
          className={`size-4 outline-2 -outline-offset-2 outline-ink ${given[n] ? 'bg-ink' : given[n] === false ? 'bg-line' : ''}`}
        />
      ))}
    </p>
  );
}

interface AskedProps {
  question: Question;
  checked: (AnswerChecked & { chosen: number }) | undefined;
  busy: boolean;
  last: boolean;
  onChoose: (choice: number) => void;
  onNext: () => void;
}

function Asked({ question, checked, busy, last, onChoose, onNext }: AskedProps) {
  const next = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (checked) next.current?.focus();
  }, [checked]);
  const colours = question.choices.every(({ cells }) => cells.length > 0);
  return (
    <div className="grid gap-4">
      <p className="font-display text-xl font-semibold">{question.words}</p>
      {question.shows.length > 0 && (
        <div className="flex">
          {question.shows.map((pane) => (
            <Shown key={pane.words} pane={pane} />
          ))}
        </div>
      )}
      <ul
        aria-label="Choices"
        className={
          colours
            ? 'grid auto-cols-fr grid-flow-col'
            : 'grid gap-2 sm:grid-cols-[repeat(auto-fit,minmax(14rem,1fr))]'
        }
      >
        {question.choices.map((choice, n) => {
          const words = choice.words || PLACES[n];
          return (
            <li key={words} className="grid">
              <button
                type="button"
                disabled={busy || checked !== undefined}
                onClick={() => onChoose(n)}
                className={
                  colours
                    ? 'grid cursor-pointer text-left focus-visible:relative focus-visible:z-10 disabled:cursor-default'
                    : 'press press-plain min-h-14 justify-start py-2 text-left disabled:opacity-100'
                }
              >
                {colours && (
                  <span className="flex h-40">
                    {keyed(choice.cells, (hex) => hex).map(({ key, item: hex }) => (
                      <span key={key} className="flex-1" style={{ background: hex }} />
                    ))}
                  </span>
                )}
                <span
                  className={`first-letter:uppercase ${colours ? 'py-2 text-sm font-semibold' : 'inline-block'}`}
                >
                  {words}
                  {checked && n === checked.choice && ' – right'}
                  {checked && n === checked.chosen && n !== checked.choice && ' – your answer'}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      <div aria-live="polite" className="min-h-28">
        {checked && (
          <div className="grid justify-items-start gap-2">
            <p className="text-lg">
              <b className="font-semibold">{checked.right ? 'Right.' : 'Not quite.'}</b> {checked.words}
            </p>
            <button ref={next} type="button" className="press press-ink" onClick={onNext}>
              {last ? 'See how it went' : 'Next'}
            </button>
          </div>
        )}
      </div>
    </div>
  );
}

function Shown({ pane }: { pane: Pane }) {
  return (
    <figure className="grid flex-1">
      <div className="flex h-40">
        {keyed(pane.cells, (hex) => hex).map(({ key, item: hex }) => (
          <span key={key} className="flex-1" style={{ background: hex }} />
        ))}
      </div>
      {pane.words && <figcaption className="py-1 text-sm text-soft">{pane.words}</figcaption>}
    </figure>
  );
}
