import type { Layer, LayerPredicted } from '../../api/client';
import { Field } from '../../parts/Field';
import { filmWords, plainNumber, share, small } from '../../parts/numbers';
import { PLACE_NAMES } from '../../parts/places';
import { useTyped } from '../../parts/useTyped';
import { PLACES, type Place } from './entry';

interface Props {
  layer: Layer;
  predicted: LayerPredicted;
  takesAway: boolean;
  onChange: (change: Partial<Layer>) => void;
}

/** What a layer leaves at each kind of place: as the technique does in this hand, or as the painter says. */
export function Film({ layer, predicted, takesAway, onChange }: Props) {
  const { print } = predicted;
  const own = layer.print ?? null;
  return (
    <div className="grid gap-2">
      <p className="text-sm text-soft">
        {PLACES.map((place) => {
          const cover = print.cover[place];
          const film = `${filmWords(print.film[place])} µm on ${share(cover)}`;
          return `${PLACE_NAMES[place]}: ${takesAway ? `${share(cover)} gone` : film}`;
        }).join('; ')}
      </p>
      <button
        type="button"
        className="press press-plain justify-self-start text-sm"
        aria-expanded={own !== null}
        onClick={() => onChange({ print: own ? null : print })}
      >
        {own ? 'Back to the usual film' : 'Set the film myself'}
      </button>
      {own && (
        <div className="grid grid-cols-[auto_1fr_1fr] items-end gap-x-3 gap-y-2">
          {PLACES.map((place) => (
            <Row key={place} place={place} print={own} takesAway={takesAway} onChange={onChange} />
          ))}
        </div>
      )}
    </div>
  );
}

interface RowProps {
  place: Place;
  print: NonNullable<Layer['print']>;
  takesAway: boolean;
  onChange: (change: Partial<Layer>) => void;
}

function Row({ place, print, takesAway, onChange }: RowProps) {
  const put = (of: 'film' | 'cover', value: number) =>
    onChange({ print: { ...print, [of]: { ...print[of], [place]: value } } });
  return (
    <>
      <span className="self-center text-sm font-semibold first-letter:uppercase">{PLACE_NAMES[place]}</span>
      {takesAway ? (
        <span />
      ) : (
        <Typed
          label={`Film on the ${PLACE_NAMES[place]}, µm`}
          range={[0.1, 3000]}
          value={print.film[place]}
          onChange={(um) => put('film', um)}
        />
      )}
      <Typed
        label={`${takesAway ? 'Rubbed off' : 'Coverage'}, ${PLACE_NAMES[place]}, %`}
        range={[0, 100]}
        value={print.cover[place] * 100}
        onChange={(percent) => put('cover', percent / 100)}
      />
    </>
  );
}

interface TypedProps {
  label: string;
  value: number;
  /** The least and the most that can be. */
  range: [number, number];
  onChange: (value: number) => void;
}

/** A number that counts once the hand leaves it, and stays as typed. */
function Typed({ label, value, range: [least, most], onChange }: TypedProps) {
  const read = (text: string) => {
    const number = small(text);
    return typeof number === 'number' && number >= least && number <= most ? number : undefined;
  };
  const said = plainNumber(Math.round(value * 10) / 10);
  const { text, setText, leaving } = useTyped(said, (text) => {
    const number = read(text);
    if (text !== said && number !== undefined) onChange(number);
  });
  return (
    <Field
      label={label}
      value={text}
      onChange={setText}
      {...leaving}
      inputMode="decimal"
      error={read(text) !== undefined ? undefined : `${plainNumber(least)} to ${plainNumber(most)}`}
    />
  );
}
