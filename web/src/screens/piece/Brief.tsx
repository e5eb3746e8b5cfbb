import { useState } from 'react';
import type { PieceEntry, Problem } from '../../api/client';
import { useLights } from '../../light/light';
import { Field } from '../../parts/Field';
import { plainNumber, typed } from '../../parts/numbers';
import { briefOf } from './entry';

interface Props {
  entry: PieceEntry;
  problem: Problem | undefined;
  onType: (entry: PieceEntry) => void;
  onChange: (entry: PieceEntry) => void;
}

/** What the client wants. */
export function Brief({ entry, problem, onType, onChange }: Props) {
  const lights = useLights();
  const brief = briefOf(entry);
  const [texts, setTexts] = useState({
    client: brief.client ?? '',
    mood: brief.mood ?? '',
    due: brief.due ?? '',
    budget: brief.budget == null ? '' : plainNumber(brief.budget),
    hours: brief.hours == null ? '' : plainNumber(brief.hours),
  });
  const type = (id: keyof typeof texts, text: string) => {
    const next = { ...texts, [id]: text };
    setTexts(next);
    const [budget, hours] = [typed(next.budget), typed(next.hours)];
    if (budget === undefined || hours === undefined) return;
    const said = { client: next.client, mood: next.mood, due: next.due || null, budget, hours };
    onType({ ...entry, brief: { ...brief, ...said } });
  };
  const field = (id: keyof typeof texts, label: string, more: object = {}) => (
    <Field
      label={label}
      value={texts[id]}
      onChange={(text) => type(id, text)}
      error={problem?.at(`/brief/${id}`)}
      {...more}
    />
  );
  const room = brief.lights;
  return (
    <div className="grid gap-3">
      {field('client', 'Client')}
      {field('mood', 'Mood', { hint: 'Worn, stately but tired, soft, seaside-weathered, bold …' })}
      <div className="grid grid-cols-3 gap-3">
        {field('budget', 'Budget', { inputMode: 'decimal' })}
        {field('hours', 'Hours', { inputMode: 'decimal' })}
        {field('due', 'Due', { type: 'date' })}
      </div>
      {brief.targets.length > 0 && (
        <div>
          <p className="text-sm font-semibold">Colours to aim at</p>
          <div className="mt-1 flex">
            {brief.targets.map((target) => (
              <span
                key={target.hex ?? String(target.lab)}
                title={target.hex ?? String(target.lab)}
                className="h-12 flex-1"
                style={{ background: target.hex ?? undefined }}
              />
            ))}
          </div>
        </div>
      )}
      <fieldset>
        <legend className="text-sm font-semibold">Lights of the room it goes to</legend>
        <div className="grid sm:grid-cols-2">
          {lights.map((light) => (
            <label key={light.id} className="flex h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-ink"
                checked={room.includes(light.id)}
                onChange={(event) => {
                  const next = event.target.checked
                    ? [...room, light.id]
                    : room.filter((id) => id !== light.id);
                  onChange({ ...entry, brief: { ...brief, lights: next } });
                }}
              />
              {light.name}
            </label>
          ))}
        </div>
      </fieldset>
    </div>
  );
}
