import { useState } from 'react';
import type { Colour, Problem } from '../api/client';
import { Field } from './Field';
import { small } from './numbers';
import { Segments } from './Segments';

type Form = 'hex' | 'lab';

const FORMS = [
  { id: 'hex', name: 'Hex' },
  { id: 'lab', name: 'L* a* b*' },
] as const;

interface Props {
  colour: Colour | null | undefined;
  onChange: (colour: Colour | null) => void;
  problem: Problem | undefined;
  /** Where the colour stands in what is sent. */
  pointer: string;
  label: string;
}

/** A colour by hex code or by L*, a*, b*. What was typed stays as it was typed; the engine says whether it can be. */
export function ColourField({ colour, onChange, problem, pointer, label }: Props) {
  const [form, setForm] = useState<Form>(colour?.lab ? 'lab' : 'hex');
  const [hex, setHex] = useState(colour?.hex ?? '');
  const [lab, setLab] = useState<[string, string, string]>(() => {
    const [l, a, b] = colour?.lab ?? [];
    return [l, a, b].map((value) => (value === undefined ? '' : String(Math.round(value * 100) / 100))) as [
      string,
      string,
      string,
    ];
  });
  const numbers = lab.map(small);
  const misread = lab.find((_, i) => numbers[i] === undefined);

  const typeHex = (text: string) => {
    setHex(text);
    onChange(text.trim() ? { hex: text } : null);
  };
  const typeLab = (i: number, text: string) => {
    const next = lab.map((old, j) => (j === i ? text : old)) as [string, string, string];
    setLab(next);
    const values = next.map(small);
    if (values.every((value) => typeof value === 'number'))
      onChange({ lab: values as [number, number, number] });
    else if (values.every((value) => value === null)) onChange(null);
  };
  const error =
    problem?.at(`${pointer}/hex`) ?? problem?.at(`${pointer}/lab`) ?? problem?.at(pointer) ?? undefined;

  return (
    <fieldset className="grid gap-2">
      <legend className="sr-only">{label}</legend>
      <div className="flex flex-wrap items-center justify-between">
        <span aria-hidden className="text-sm font-semibold">
          {label}
        </span>
        <Segments label={`${label}: hex code or L* a* b*`} choices={FORMS} value={form} onChange={setForm} />
      </div>
      {form === 'hex' ? (
        <div className="grid grid-cols-[1fr_auto] items-end gap-2">
          <Field
            label="Hex code"
            value={hex}
            onChange={typeHex}
            error={error}
            placeholder="#b08d57"
            spellCheck={false}
          />
          <input
            type="color"
            aria-label={`${label}: choose on a colour picker`}
            value={/^#[\da-f]{6}$/i.test(hex.trim()) ? hex.trim() : '#808080'}
            onChange={(event) => typeHex(event.target.value)}
            className="h-11 w-14 cursor-pointer"
          />
        </div>
      ) : (
        <div className="grid gap-1">
          <div className="grid grid-cols-3 gap-2">
            {(['L*', 'a*', 'b*'] as const).map((name, i) => (
              <Field
                key={name}
                label={name}
                value={lab[i] ?? ''}
                onChange={(text) => typeLab(i, text)}
                inputMode="text"
                aria-invalid={misread !== undefined && numbers[i] === undefined}
              />
            ))}
          </div>
          <p className={`text-sm ${error || misread ? 'font-medium text-alarm' : 'text-soft'}`}>
            {misread !== undefined
              ? `“${misread}” is not a number; enter one like 61.2`
              : (error ?? 'Daylight, D65 and 2°')}
          </p>
        </div>
      )}
    </fieldset>
  );
}
