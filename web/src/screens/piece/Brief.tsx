import { Images } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Colour, Piece, Problem } from '../../api/client';
import { KeptPhoto } from '../../common/KeptPhoto';
import { PhotoPick } from '../../common/PhotoPick';
import { useLights } from '../../light/light';
import { Checkbox } from '../../parts/Checkbox';
import { Field } from '../../parts/Field';
import { misread, plainNumber, typed } from '../../parts/numbers';
import { briefOf } from '../../state/piece';
import type { Change } from '../../state/useDraft';
import { useWorkshop } from '../../state/workshop';

interface Props {
  entry: Piece;
  problem: Problem | undefined;
  onType: (entry: Piece) => void;
  onChange: (entry: Change<Piece>) => void;
}

/** What the client wants. */
export function Brief({ entry, problem, onType, onChange }: Props) {
  const lights = useLights();
  const currency = useWorkshop().data?.entry.currency;
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
    // What cannot be read stays as it was kept, and says so; the rest counts.
    const number = (text: string, kept: number | null | undefined) => {
      const value = typed(text);
      return value === undefined ? (kept ?? null) : value;
    };
    const said = {
      client: next.client,
      mood: next.mood,
      due: next.due || null,
      budget: number(next.budget, brief.budget),
      hours: number(next.hours, brief.hours),
    };
    onType({ ...entry, brief: { ...brief, ...said } });
  };
  const field = (id: keyof typeof texts, label: string, more: object = {}) => (
    <Field
      label={label}
      value={texts[id]}
      onChange={(text) => type(id, text)}
      error={
        (id === 'budget' || id === 'hours' ? misread(texts[id]) : undefined) ?? problem?.at(`/brief/${id}`)
      }
      {...more}
    />
  );
  const room = brief.lights;
  return (
    <div className="grid gap-3">
      {field('client', 'Client')}
      {field('mood', 'Mood', { hint: 'Worn, stately but tired, soft, seaside-weathered, bold …' })}
      <div className="grid grid-cols-3 gap-3">
        {field('budget', currency ? `Budget, ${currency}` : 'Budget', { inputMode: 'decimal' })}
        {field('hours', 'Hours', { inputMode: 'decimal' })}
        {field('due', 'Due', { type: 'date' })}
      </div>
      <Photo
        photo={brief.photo}
        onChange={(photo) => onChange((now) => ({ ...now, brief: { ...briefOf(now), photo } }))}
      />
      <Targets
        colours={brief.targets}
        onChange={(targets) => onChange({ ...entry, brief: { ...brief, targets } })}
      />
      <fieldset>
        <legend className="text-sm font-semibold">Light where it will stand</legend>
        <div className="grid sm:grid-cols-2">
          {lights.map((light) => (
            <Checkbox
              key={light.id}
              checked={room.includes(light.id)}
              onChange={(on) => {
                const next = on ? [...room, light.id] : room.filter((id) => id !== light.id);
                onChange({ ...entry, brief: { ...brief, lights: next } });
              }}
            >
              {light.name}
            </Checkbox>
          ))}
        </div>
      </fieldset>
    </div>
  );
}

interface PhotoProps {
  photo: string | null | undefined;
  onChange: (photo: string | null) => void;
}

/** A photo of what it should be like. */
function Photo({ photo, onChange }: PhotoProps) {
  return (
    <div className="grid gap-2">
      <KeptPhoto
        photo={photo}
        onChange={onChange}
        name="Reference photo"
        alt="What it should be like"
        className="max-h-72 w-full bg-panel object-contain"
      >
        {photo && (
          <button type="button" className="press press-bare text-sm" onClick={() => onChange(null)}>
            Remove the photo
          </button>
        )}
      </KeptPhoto>
      <Link to="/piece/photo" className="press press-bare justify-self-start text-sm">
        <Images size={18} aria-hidden /> Colours from a photo
      </Link>
    </div>
  );
}

interface TargetProps {
  colours: Colour[];
  onChange: (colours: Colour[]) => void;
}

/** Target colours: by code, or picked from a photo that holds a white card. */
function Targets({ colours, onChange }: TargetProps) {
  const [code, setCode] = useState('');
  const [photo, setPhoto] = useState(false);
  const add = (more: Colour[]) => onChange([...colours, ...more].slice(0, 8));
  return (
    <div className="grid gap-2">
      <p className="text-sm font-semibold">Target colours</p>
      {colours.length > 0 && (
        <ul className="flex" aria-label="Target colours">
          {colours.map((colour, n) => (
            <li key={`${colour.hex ?? String(colour.lab)} ${String(n)}`} className="flex-1">
              <button
                type="button"
                aria-label={`Remove ${colour.hex ?? 'the picked colour'}`}
                title={`Remove ${colour.hex ?? 'the picked colour'}`}
                className="block h-12 w-full cursor-pointer"
                style={{ background: colour.hex ?? undefined }}
                onClick={() => onChange(colours.filter((_, i) => i !== n))}
              />
            </li>
          ))}
        </ul>
      )}
      {colours.length < 8 && (
        <div className="flex items-end gap-2">
          <Field label="Hex code" value={code} onChange={setCode} className="flex-1" placeholder="#66737c" />
          <button
            type="button"
            className="press press-plain"
            disabled={code.trim() === ''}
            onClick={() => {
              add([{ hex: code.trim() }]);
              setCode('');
            }}
          >
            Add it
          </button>
          <button type="button" className="press press-bare text-sm" onClick={() => setPhoto(!photo)}>
            From a photo
          </button>
        </div>
      )}
      {photo && (
        <PhotoPick
          name="brief"
          wanted={['one colour', 'another']}
          take="Set both as targets"
          onPicked={(_, hexes) => {
            add(hexes.map((hex) => ({ hex })));
            setPhoto(false);
            return true;
          }}
        />
      )}
    </div>
  );
}
