import type { Paint, PaintPage, TestWorth } from '../../api/client';
import { Term } from '../../common/Term';
import { Doubt, DoubtBar } from '../../parts/Doubt';
import { useTell } from '../../parts/Notice';
import { Picker } from '../../parts/Picker';
import { why } from '../../parts/useAction';
import { useWorkshopCalls } from '../../state/workshop';

interface Props {
  page: PaintPage;
  shelf: Paint[];
  onTest: (test: TestWorth) => void;
}

const NAMES: Record<string, string> = {
  'tint-1-1': 'Tint 1 : 1',
  'tint-1-4': 'Tint 1 : 4',
  darkened: 'Darkened 4 : 1',
  masstone: 'Masstone',
  drawdown: 'Drawdown',
  sealed: 'Under wax',
};

/** How sure the mixes of a paint are, what to test next and what each test would buy. */
export function HowSure({ page, shelf, onTest }: Props) {
  const { paint, tests, advice } = page;
  const { known } = paint;
  const count =
    known.readings === 0 ? 'nothing read yet' : `${known.readings} reading${known.readings > 1 ? 's' : ''}`;
  return (
    <section aria-label="How sure" className="grid gap-3">
      <p className="font-display text-xl font-semibold">
        Mixes: {known.words}
        <span className="font-sans text-base font-normal text-soft">
          :{' '}
          <Term id="band">
            <Doubt value={known.doubt} />
          </Term>{' '}
          <Term id="delta-e">ΔE00</Term>, {count}
        </span>
      </p>
      <p>
        {advice}{' '}
        {tests.length > 0 && (
          <span className="text-soft">
            A tint test measures{' '}
            <Term id="tint-strength" paint={paint.id}>
              tint strength
            </Term>
            .
          </span>
        )}
      </p>
      {!shelf.some((other) => other.house_white) && <ChooseWhite shelf={shelf} />}
      {tests.length > 0 && (
        <p aria-hidden className="grid grid-cols-[8.5rem_1fr_3.5rem] gap-3 text-sm text-soft">
          <span>One more test</span>
          <span>
            After the test (now <Doubt value={known.doubt} />)
          </span>
        </p>
      )}
      <ul aria-label="Tests" className="-mt-2 grid gap-1">
        {tests.map((test, n) => (
          <TestRow key={test.test} test={test} first={n === 0} onTest={() => onTest(test)} />
        ))}
      </ul>
    </section>
  );
}

function TestRow({ test, first, onTest }: { test: TestWorth; first: boolean; onTest: () => void }) {
  return (
    <li className="grid grid-cols-[8.5rem_1fr_3.5rem] items-center gap-3">
      <button
        type="button"
        data-mark={first ? 'first test' : undefined}
        className="press press-plain justify-start"
        title={test.words}
        onClick={onTest}
      >
        {NAMES[test.test] ?? test.test}
      </button>
      <DoubtBar value={test.now} after={test.after} />
      <span className="text-right text-sm">
        <span className="sr-only">{test.words}</span>
        <span aria-hidden>
          <Doubt value={test.after} />
        </span>
      </span>
    </li>
  );
}

function ChooseWhite({ shelf }: { shelf: Paint[] }) {
  const calls = useWorkshopCalls();
  const tell = useTell();
  const whites = shelf
    .filter((paint) => !paint.medium)
    .toSorted((a, b) => (b.swatch.face.lab[0] ?? 0) - (a.swatch.face.lab[0] ?? 0))
    .map((paint) => ({ id: paint.id, name: paint.entry.name }));
  const choose = (id: string) =>
    calls
      .chooseHouseWhite(id)
      .catch((error: unknown) => tell(`Couldn’t choose the house white: ${why(error)}`));
  return (
    <Picker
      label="House white"
      choices={[{ id: 'none', name: 'Choose the house white' }, ...whites]}
      value="none"
      onChange={(id) => id !== 'none' && void choose(id)}
      className="justify-self-start"
    />
  );
}
