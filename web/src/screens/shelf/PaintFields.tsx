import { ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import { useId, useState } from 'react';
import type { Class, PaintEntry, Problem } from '../../api/client';
import { CurrencyChoice } from '../../common/CurrencyChoice';
import { Checkbox } from '../../parts/Checkbox';
import { Choice, Choices } from '../../parts/Choice';
import { ColourField } from '../../parts/ColourField';
import { Field } from '../../parts/Field';
import { Named } from '../../parts/Named';
import { inScale, misread, type Scale, typed, unitOf } from '../../parts/numbers';
import { Segments } from '../../parts/Segments';
import { useUnitScale } from '../../state/scales';
import { useClasses } from '../../state/workspace';
import { FindColour } from './colour/FindColour';

interface Props {
  entry: PaintEntry;
  onChange: (entry: PaintEntry) => void;
  problem: Problem | undefined;
  /** Put the cursor into the name at once. */
  begin?: boolean;
}

/** What a painter writes down of a tin. */
export function PaintFields({ entry, onChange, problem, begin = false }: Props) {
  const classes = useClasses().data ?? [];
  const kind = classes.find((choice) => choice.id === entry.class);
  const medium = kind?.medium ?? false;
  const [amount, setAmount] = useState(text(entry.price?.amount));
  const volume = useUnitScale('volume');
  // What was typed gives way to what is found.
  const [found, setFound] = useState(0);
  const [tin, setTin] = useState(text(entry.price?.tin_ml, volume));

  const typePrice = (nextAmount: string, nextTin: string) => {
    setAmount(nextAmount);
    setTin(nextTin);
    const [a, t] = [typed(nextAmount), typed(nextTin, volume)];
    if (a === null) onChange({ ...entry, price: null });
    else if (typeof a === 'number' && typeof t === 'number')
      onChange({ ...entry, price: { amount: a, tin_ml: t } });
  };

  return (
    <div className="grid gap-4">
      <Field
        label="Name"
        value={entry.name}
        onChange={(name) => onChange({ ...entry, name })}
        error={problem?.at('/name')}
        autoFocus={begin}
      />
      <ClassField value={entry.class} onChange={(next) => onChange({ ...entry, class: next })} />
      {!medium && (
        <>
          <ColourField
            label="Dry colour"
            colour={entry.colour}
            onChange={(colour) => onChange({ ...entry, colour })}
            key={found}
            problem={problem}
            pointer="/colour"
          />
          <FindColour
            colour={entry.colour}
            onFound={(colour, source) => {
              onChange({ ...entry, colour, source });
              setFound((n) => n + 1);
            }}
          />
          <Named name="Colour source" className="justify-items-start">
            <Segments
              label="Colour source"
              choices={SOURCES}
              value={entry.source ?? 'chip'}
              onChange={(source) => onChange({ ...entry, source })}
              className="flex bg-ground"
            />
          </Named>
          <NumberField
            label="Coats to cover"
            value={entry.coats_to_hide}
            onChange={(coats_to_hide) => onChange({ ...entry, coats_to_hide })}
            error={problem?.at('/coats_to_hide')}
            hint="Brushed coats until black and white no longer show; 1 if the first coat does it. Blank uses the typical value."
          />
        </>
      )}
      <div className="grid grid-cols-3 gap-2">
        <Field
          label="Price"
          value={amount}
          onChange={(next) => typePrice(next, tin)}
          error={misread(amount) ?? problem?.at('/price/amount')}
          inputMode="decimal"
        />
        <Field
          label="Tin"
          unit={volume.unit}
          value={tin}
          onChange={(next) => typePrice(amount, next)}
          error={
            misread(tin, volume) ??
            problem?.at('/price/tin_ml') ??
            (amount.trim() && !tin.trim() ? 'Enter the tin size to save the price.' : undefined)
          }
          inputMode="decimal"
        />
        <NumberField
          label="Amount left"
          unit={volume}
          value={entry.stock_ml}
          onChange={(stock_ml) => onChange({ ...entry, stock_ml })}
          error={problem?.at('/stock_ml')}
        />
      </div>
      <CurrencyChoice />
      <Field
        label="Opened on"
        type="date"
        value={entry.opened_on ?? ''}
        onChange={(opened_on) => onChange({ ...entry, opened_on: opened_on || null })}
        error={problem?.at('/opened_on')}
      />
      <Named name="Condition" className="justify-items-start">
        <Segments
          label="Condition"
          choices={CONDITIONS}
          value={entry.condition ?? 'good'}
          onChange={(condition) => onChange({ ...entry, condition })}
          className="flex bg-ground"
        />
      </Named>
      <Specials entry={entry} names={kind?.specials ?? []} onChange={onChange} problem={problem} />
      <Field
        label="Warning on the tin"
        value={entry.safety ?? ''}
        onChange={(safety) => onChange({ ...entry, safety: safety || null })}
        error={problem?.at('/safety')}
      />
    </div>
  );
}

const SOURCES = [
  { id: 'chip', name: 'Chip' },
  { id: 'reader', name: 'Reader' },
  { id: 'photo', name: 'Photo' },
  { id: 'guess', name: 'By eye' },
] as const;

const CONDITIONS = [
  { id: 'good', name: 'Good' },
  { id: 'frozen', name: 'Was frozen' },
  { id: 'off', name: 'Gone off' },
] as const;

const NUMBERS = [
  { id: 'density', label: 'Density', unit: 'g/ml' },
  { id: 'lustre', label: 'Flakes cover', unit: '0 to 1' },
  { id: 'open_minutes', label: 'Open time', unit: 'min' },
] as const;

const MARKS = [
  { id: 'blocks_stains', label: 'Blocks stains and tannin' },
  { id: 'solvent_borne', label: 'Solvent-based: rags can self-heat' },
] as const;

/** What only some classes of product have. */
function Specials({
  entry,
  names,
  onChange,
  problem,
}: {
  entry: PaintEntry;
  names: string[];
  onChange: (entry: PaintEntry) => void;
  problem: Problem | undefined;
}) {
  const specials = entry.specials ?? {};
  const numbers = NUMBERS.filter(({ id }) => names.includes(id));
  const marks = MARKS.filter(({ id }) => names.includes(id));
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        {numbers.map(({ id, label, unit }) => (
          <NumberField
            key={id}
            label={label}
            unit={unit}
            value={specials[id]}
            onChange={(value) => onChange({ ...entry, specials: { ...specials, [id]: value } })}
            error={problem?.at(`/specials/${id}`)}
          />
        ))}
      </div>
      {marks.map(({ id, label }) => (
        <Checkbox
          key={id}
          className="text-sm"
          checked={specials[id] ?? false}
          onChange={(on) => onChange({ ...entry, specials: { ...specials, [id]: on } })}
        >
          {label}
        </Checkbox>
      ))}
    </>
  );
}

function text(value: number | null | undefined, unit?: string | Scale) {
  if (typeof value !== 'number') return '';
  return typeof unit === 'object' ? inScale(value, unit) : String(value);
}

interface NumberProps {
  label: string;
  unit?: string | Scale;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  error: string | undefined;
  hint?: string;
}

/** A number that may be left out. What is no number stays in the field and is not sent. */
function NumberField({ label, unit, value, onChange, error, hint }: NumberProps) {
  const [words, setWords] = useState(text(value, unit));
  return (
    <Field
      label={label}
      {...(unit ? { unit: unitOf(unit) } : {})}
      value={words}
      onChange={(next) => {
        setWords(next);
        const number = typed(next, unit);
        if (number !== undefined) onChange(number);
      }}
      error={misread(words, unit) ?? error}
      hint={hint}
      inputMode="decimal"
    />
  );
}

function ClassField({ value, onChange }: { value: Class; onChange: (value: Class) => void }) {
  const classes = useClasses().data ?? [];
  const id = useId();
  const groups = [
    { name: 'Paints', choices: classes.filter((choice) => !choice.medium) },
    { name: 'Mediums', choices: classes.filter((choice) => choice.medium) },
  ];
  return (
    <div className="grid gap-1">
      <label id={id} htmlFor={`${id}-list`} className="text-sm font-semibold">
        Type
      </label>
      <Select.Root value={value} onValueChange={(next) => onChange(next as Class)}>
        <Select.Trigger
          id={`${id}-list`}
          aria-labelledby={id}
          className="field flex items-center justify-between cursor-pointer"
        >
          <Select.Value />
          <Select.Icon>
            <ChevronDown size={18} aria-hidden />
          </Select.Icon>
        </Select.Trigger>
        <Choices>
          {groups.map((group) => (
            <Select.Group key={group.name}>
              <Select.Label className="px-3 pb-1 pt-2 text-sm text-soft">{group.name}</Select.Label>
              {group.choices.map((choice) => (
                <Choice key={choice.id} value={choice.id} name={choice.name} />
              ))}
            </Select.Group>
          ))}
        </Choices>
      </Select.Root>
    </div>
  );
}
