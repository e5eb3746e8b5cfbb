import { X } from 'lucide-react';
import { useState } from 'react';
import type { Problem, RunSheetEntry, RunSheetView } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { Field } from '../../parts/Field';
import { NumberField } from '../../parts/NumberField';
import type { Scale } from '../../parts/numbers';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { useInTurn } from '../../parts/useAction';
import { useRunSheetCalls } from '../../state/runSheet';
import { useUnitScale } from '../../state/scales';
import { Rate } from './Rate';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

const FIELDS = [
  '/hours/week',
  '/hours/zone',
  '/hours/overrun',
  '/hours/off',
  '/starts',
  '/celsius',
  '/humidity',
];

/** Hours, help, air and rates: every change plans anew. */
export function HowWeWork({ piece, sheet }: { piece: string; sheet: RunSheetView }) {
  const calls = useRunSheetCalls(piece);
  const inTurn = useInTurn();
  const temperature = useUnitScale('temperature');
  const [problem, setProblem] = useState<Problem>();
  const { entry } = sheet;
  const alter = (what: (now: RunSheetEntry) => Partial<RunSheetEntry>) =>
    inTurn(
      'Couldn’t save the change',
      async () => {
        await calls.change(what);
        setProblem(undefined);
      },
      setProblem,
    );
  const change = (what: Partial<RunSheetEntry>) => alter(() => what);
  const weekProblem = problem?.at('/hours/week') ?? problem?.at('/hours/zone');
  // What belongs to no field here is said all the same.
  const elsewhere = problem && !FIELDS.some((field) => problem.at(field) !== undefined) && problem.message;
  const day = (n: number, window: RunSheetEntry['hours']['week'][number]) =>
    alter(({ hours }) => ({
      hours: { ...hours, week: hours.week.map((old, i) => (i === n ? window : old)) },
    }));
  const number = (field: 'celsius' | 'humidity', label: string, unit: string | Scale) => (
    <NumberField
      label={label}
      unit={unit}
      value={entry[field]}
      error={problem?.at(`/${field}`)}
      onChange={(value) => change({ [field]: value })}
    />
  );
  return (
    <div className="grid gap-5">
      <fieldset className="grid gap-2">
        <legend className="pb-1 text-lg font-semibold">Hours</legend>
        {DAYS.map((name, n) => {
          const window = entry.hours.week[n] ?? null;
          return (
            <div key={name} className="flex flex-wrap items-center gap-3">
              <Checkbox
                className="w-36 font-medium"
                checked={window !== null}
                onChange={(on) => day(n, on ? { from: '09:00', to: '17:00' } : null)}
              >
                {name}
              </Checkbox>
              {window && (
                <>
                  <TimeOfDay
                    label={`${name} from`}
                    value={window.from}
                    onChange={(from) => day(n, { ...window, from })}
                  />
                  <span aria-hidden>to</span>
                  <TimeOfDay
                    label={`${name} to`}
                    value={window.to}
                    onChange={(to) => day(n, { ...window, to })}
                  />
                </>
              )}
            </div>
          );
        })}
        {weekProblem && <TroubleLine>{weekProblem}</TroubleLine>}
        {elsewhere && <TroubleLine>{elsewhere}</TroubleLine>}
        <div className="max-w-64">
          <NumberField
            label="Stay longer to finish a step"
            unit="min"
            value={entry.hours.overrun ?? 15}
            error={problem?.at('/hours/overrun')}
            onChange={(overrun) =>
              alter(({ hours }) => ({ hours: { ...hours, overrun: Math.round(overrun) } }))
            }
          />
        </div>
        <NotBefore
          starts={entry.starts ?? null}
          clock={clockOf(entry.hours.zone)}
          onChange={(starts) => change({ starts })}
          problem={problem?.at('/starts')}
        />
        <DaysOff
          off={entry.hours.off ?? []}
          clock={clockOf(entry.hours.zone)}
          problem={problem?.at('/hours/off')}
          onChange={(off) => alter(({ hours }) => ({ hours: { ...hours, off } }))}
        />
        <Checkbox
          className="font-medium"
          checked={entry.helper ?? false}
          onChange={(on) => change({ helper: on })}
        >
          I have a helper
        </Checkbox>
        <Checkbox
          className="font-medium"
          checked={entry.tapes_colours ?? false}
          onChange={(on) => change({ tapes_colours: on })}
        >
          Tape between two colours, rather than cut in by brush
        </Checkbox>
      </fieldset>
      <fieldset className="grid grid-cols-2 gap-3">
        <legend className="pb-1 text-lg font-semibold">Air in the workshop</legend>
        {number('celsius', 'Temperature', temperature)}
        {number('humidity', 'Humidity', '%')}
      </fieldset>
      <fieldset className="grid grid-cols-3 gap-3 max-sm:grid-cols-1">
        <legend className="pb-1 text-lg font-semibold">Rates</legend>
        <Rate piece={piece} entry={entry} rate="hour" />
        <Rate piece={piece} entry={entry} rate="overhead" />
        <Rate piece={piece} entry={entry} rate="margin" />
      </fieldset>
    </div>
  );
}

function TimeOfDay({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (to: string) => void;
}) {
  return (
    <input
      type="time"
      aria-label={label}
      className="field w-32"
      key={value}
      defaultValue={value}
      onBlur={(event) => event.target.value && event.target.value !== value && onChange(event.target.value)}
    />
  );
}

/** Days on which nobody works: each can be taken off the list, and another chosen. */
function DaysOff({
  off,
  clock,
  problem,
  onChange,
}: {
  off: string[];
  clock: ReturnType<typeof clockOf>;
  problem: string | undefined;
  onChange: (off: string[]) => void;
}) {
  const [day, setDay] = useState('');
  const add = () => {
    if (!day) return;
    if (!off.includes(day)) onChange([...off, day].sort());
    setDay('');
  };
  return (
    <fieldset className="grid gap-1">
      <legend className="text-sm font-semibold">Days off</legend>
      {off.length > 0 && (
        <ul className="flex flex-wrap gap-2">
          {off.map((one) => (
            <li key={one} className="flex items-center bg-paper pl-3">
              {clock.plainDay(one)}
              <button
                type="button"
                className="press press-bare px-2"
                aria-label={`Work on ${clock.plainDay(one)} after all`}
                onClick={() => onChange(off.filter((other) => other !== one))}
              >
                <X size={18} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap items-end gap-2">
        <Field
          label="Another day off"
          type="date"
          value={day}
          onChange={setDay}
          onKeyDown={(event) => event.key === 'Enter' && add()}
          error={problem}
          className="w-48"
        />
        <button type="button" className="press press-plain text-sm" disabled={!day} onClick={add}>
          Add
        </button>
      </div>
    </fieldset>
  );
}

/** The day on which work may begin; at once where none is said. */
function NotBefore({
  starts,
  clock,
  onChange,
  problem,
}: {
  starts: string | null;
  clock: ReturnType<typeof clockOf>;
  onChange: (starts: string | null) => void;
  problem: string | undefined;
}) {
  const day = starts ? clock.date(starts) : '';
  return (
    <label className="grid w-48 gap-1 text-sm font-semibold">
      Start no earlier than
      <input
        type="date"
        key={day}
        defaultValue={day}
        className="field font-normal"
        onBlur={({ target: { value } }) => value !== day && onChange(value || null)}
      />
      {problem && <span className="font-medium text-alarm">{problem}</span>}
    </label>
  );
}
