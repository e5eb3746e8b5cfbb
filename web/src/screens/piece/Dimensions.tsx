import type { Form, Piece, PieceChoices, PiecePrediction, Problem } from '../../api/client';
import { MeasureField } from '../../common/MeasureField';
import { Checkbox } from '../../parts/Checkbox';
import { NumberField } from '../../parts/NumberField';
import { Picker } from '../../parts/Picker';
import { useBoardChoices } from '../../state/boards';

interface Props {
  entry: Piece;
  standing: PiecePrediction | undefined;
  choices: PieceChoices;
  problem: Problem | undefined;
  onChange: (entry: Piece) => void;
}

/** What the piece is and how large; what was measured where the drawing is not the piece. */
export function Dimensions({ entry, standing, choices, problem, onChange }: Props) {
  const grounds = useBoardChoices()?.grounds ?? [];
  const form = entry.form;
  if (!form) return null;
  const kind = choices.kinds.find(({ id }) => id === form.kind);
  const set = (change: Partial<Form>) => onChange({ ...entry, form: { ...form, ...change } });
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap gap-3">
        <Picker
          label="What it is"
          choices={choices.kinds}
          value={form.kind}
          onChange={(id) => {
            const usual = choices.kinds.find((one) => one.id === id)?.usual;
            if (usual) onChange({ ...entry, form: usual });
          }}
        />
        <Picker
          label="What it is made of"
          choices={grounds}
          value={entry.ground.kind}
          onChange={(id) => onChange({ ...entry, ground: { kind: id, colour: null } })}
        />
      </div>
      <div className="grid gap-3 sm:grid-cols-3">
        {kind?.asks.map((ask) => {
          const error = problem?.at(`/form/${ask.id}`);
          const said = standing?.dimensions.find(({ id }) => id === ask.id)?.said ?? '';
          return ask.count ? (
            <NumberField
              key={`${form.kind} ${ask.id}`}
              label={ask.name}
              value={form[ask.id as 'width']}
              error={error}
              onChange={(value) => set({ [ask.id]: Math.round(value) })}
            />
          ) : (
            <MeasureField
              key={`${form.kind} ${ask.id}`}
              label={ask.name}
              measured="length"
              said={said}
              error={error}
              onChange={(mm) => set({ [ask.id]: mm })}
            />
          );
        })}
      </div>
      <div className="flex flex-wrap gap-5">
        {(['carved', 'round'] as const).map((id) => (
          <Checkbox
            key={id}
            className="font-semibold"
            checked={form[id] ?? false}
            onChange={(on) => set({ [id]: on })}
          >
            {id === 'carved' ? 'Carved' : 'Round top'}
          </Checkbox>
        ))}
      </div>
      <details>
        <summary className="min-h-11 cursor-pointer py-3 font-semibold">
          Carving, areas and edges by hand
        </summary>
        <p className="mb-2 text-sm text-soft">
          How carved a part is decides how much paint and time it takes. Blank uses the drawing.
        </p>
        <ul className="grid gap-2">
          {standing?.zones.map((zone) => {
            const own = entry.corrections?.[zone.zone];
            const correct = (change: object) =>
              onChange({
                ...entry,
                corrections: { ...entry.corrections, [zone.zone]: { ...own, ...change } },
              });
            return (
              <li
                key={zone.zone}
                className="grid grid-cols-[8rem_minmax(0,1.4fr)_1fr_1fr] items-end gap-3 max-sm:grid-cols-2"
              >
                <span className="pb-3 text-sm font-semibold">{zone.name}</span>
                <Picker
                  label={`Carving of ${zone.name.toLowerCase()}`}
                  className="w-full min-w-0 *:truncate"
                  choices={[{ id: 'drawn', name: 'As drawn' }, ...choices.carvings]}
                  value={own?.carved ?? 'drawn'}
                  onChange={(id) => correct({ carved: id === 'drawn' ? null : id })}
                />
                {(
                  [
                    { id: 'area', name: 'Area', measured: 'area' },
                    { id: 'edge', name: 'Edges', measured: 'run' },
                  ] as const
                ).map(({ id, name, measured }) => (
                  <MeasureField
                    key={id}
                    label={`${name} of ${zone.name.toLowerCase()}`}
                    measured={measured}
                    said={own?.[id] == null ? '' : zone[id]}
                    placeholder={zone[id]}
                    error={problem?.at(`/corrections/${zone.zone}/${id}`)}
                    onChange={(value) => correct({ [id]: value })}
                    onEmpty={() => correct({ [id]: null })}
                  />
                ))}
              </li>
            );
          })}
        </ul>
      </details>
    </div>
  );
}
