import type { ComponentProps } from 'react';
import type { Layer, LayerPredicted, Mix, Paint } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { plainNumber } from '../../parts/numbers';
import { PaintPicker } from '../../parts/PaintPicker';
import { Picker } from '../../parts/Picker';
import { PLACE_NAMES } from '../../parts/places';
import { Slide } from '../../parts/Slide';
import { useAction } from '../../parts/useAction';
import { type useBoardChoices, useShade } from '../../state/boards';
import { type LayerChange, PLACES } from './entry';
import { Film } from './Film';
import { Meets } from './Meets';

interface Props {
  layer: Layer;
  predicted: LayerPredicted;
  below: LayerPredicted[];
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  shelf: Paint[];
  mixes: Mix[];
  onShow: (change: Partial<Layer>) => void;
  onChange: (change: LayerChange) => void;
}

/** Everything that can be changed about a layer. */
export function LayerEditor({ layer, predicted, below, choices, shelf, mixes, onShow, onChange }: Props) {
  const shade = useShade();
  const { hand } = layer;
  type ByHand = Partial<Layer['hand']>;
  const show = (change: ByHand) => onShow({ hand: { ...hand, ...change } });
  const put = (change: ByHand) => onChange((now) => ({ hand: { ...now.hand, ...change } }));
  const { attempt, busy } = useAction();
  const technique = choices.techniques.find(({ id }) => id === layer.technique);
  const used = layer.mix ?? (layer.pot.length === 1 ? layer.pot[0]?.paint : undefined);
  const named = mixes.filter((mix) => mix.entry.name && mix.entry.components.length > 0);
  const pots = [
    ...named.map(({ id, entry, prediction }) => ({ id, name: entry.name ?? '', swatch: prediction.swatch })),
    ...shelf.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch })),
  ];
  const known = pots.some(({ id }) => id === used);
  const fill = (id: string) => {
    const mix = named.find((one) => one.id === id);
    if (mix) onChange({ pot: mix.entry.components, mix: mix.id });
    else if (id !== 'as-it-is') onChange({ pot: [{ paint: id, parts: 1 }], mix: null });
  };
  const retouch = (id: string) => {
    const next = choices.techniques.find((one) => one.id === id);
    const [first] = shelf.filter((paint) => !paint.medium);
    const pot =
      next?.needs_pot && layer.pot.length === 0 && first ? [{ paint: first.id, parts: 1 }] : layer.pot;
    onChange({
      technique: id,
      print: null,
      hand: { ...hand, texture: null, grit: null },
      motif: null,
      into_wet: null,
      pot: next?.takes_away ? [] : pot,
    });
  };
  const reshade = async (shades: number) => {
    const pot = await attempt('Couldn’t change the layer', () => shade(layer.pot, shades));
    // Somebody may have filled it anew meanwhile.
    if (pot) onChange((now) => (now.pot === layer.pot ? { pot, mix: null } : {}));
  };
  return (
    <div className="grid gap-3">
      <Picker
        label="Technique"
        className="w-full"
        choices={choices.techniques}
        value={layer.technique}
        onChange={retouch}
      />
      {technique && technique.grits.length > 0 && (
        <Picker
          label="Sandpaper"
          className="w-full"
          choices={technique.grits.map((grit) => ({ id: `${grit}`, name: `${grit} grit` }))}
          value={`${hand.grit ?? technique.usual_grit}`}
          onChange={(grit) => put({ grit: Number(grit) })}
        />
      )}
      {technique && technique.motifs.length > 0 && (
        <Picker
          label="Pattern"
          className="w-full"
          choices={technique.motifs}
          value={layer.motif ?? technique.motifs[0]?.id ?? ''}
          onChange={(motif) => onChange({ motif })}
        />
      )}
      {!technique?.takes_away && (
        <PaintPicker
          label="Paint or mix"
          className="w-full"
          choices={
            known ? pots : [{ id: 'as-it-is', name: predicted.pot || 'Usual for this technique' }, ...pots]
          }
          value={known && used ? used : 'as-it-is'}
          onChange={fill}
        />
      )}
      {predicted.hex && layer.pot.length > 0 && (
        <div className="flex gap-2">
          {[
            { shades: 1, words: 'A shade lighter' },
            { shades: -1, words: 'A shade darker' },
          ].map(({ shades, words }) => (
            <button
              key={words}
              type="button"
              className="press press-plain flex-1 text-sm"
              disabled={busy}
              onClick={() => reshade(shades)}
            >
              {words}
            </button>
          ))}
        </div>
      )}
      <Amount
        label={technique?.takes_away ? 'Rubbing' : 'Paint on the brush'}
        shown={hand.load === 1 ? 'as usual' : `${plainNumber(hand.load)} × usual`}
        value={Math.log2(hand.load)}
        from={-2}
        to={2}
        step={0.25}
        onShow={(value) => show({ load: 2 ** value })}
        onChange={(value) => put({ load: 2 ** value })}
      />
      {technique?.wiped && (
        <Amount
          label="Wiping"
          shown={hand.wipe === 0.5 ? 'as usual' : hand.wipe < 0.5 ? 'lighter' : 'firmer'}
          value={hand.wipe}
          from={0}
          to={1}
          step={0.05}
          onShow={(wipe) => show({ wipe })}
          onChange={(wipe) => put({ wipe })}
        />
      )}
      <Amount
        label="Passes"
        shown={hand.passes === 1 ? 'once' : `${hand.passes} times`}
        value={hand.passes}
        from={1}
        to={9}
        step={1}
        onShow={(passes) => show({ passes })}
        onChange={(passes) => put({ passes })}
      />
      {technique && technique.texture_um != null && (
        <Amount
          label="Texture"
          shown={textureWords(hand.texture ?? technique.texture_um)}
          value={Math.sqrt(hand.texture ?? technique.texture_um)}
          from={0}
          to={24}
          step={2}
          onShow={(root) => show({ texture: root * root })}
          onChange={(root) => put({ texture: root * root })}
        />
      )}
      {technique?.takes_away && technique.grits.length === 0 && (
        <Picker
          label="Down to"
          className="w-full"
          choices={[
            { id: 'ground', name: 'Down to the ground' },
            ...below
              .filter((one) => one.hex)
              .map((one) => ({
                id: one.id,
                name: `Down to: ${one.technique}${one.pot ? `, ${one.pot}` : ''}`,
              })),
          ]}
          value={layer.down_to ?? 'ground'}
          onChange={(id) => onChange({ down_to: id === 'ground' ? null : id })}
        />
      )}
      {technique?.goes_wet && below.length > 0 && (
        <Checkbox
          className="text-sm font-semibold"
          checked={layer.into_wet ?? technique.usually_wet}
          onChange={(into_wet) => onChange({ into_wet })}
        >
          Into the wet layer below
        </Checkbox>
      )}
      <fieldset className="flex flex-wrap gap-x-4">
        <legend className="sr-only">Where it goes</legend>
        {PLACES.map((place) => (
          <Checkbox
            key={place}
            className="text-sm font-semibold first-letter:uppercase"
            checked={layer.on[place]}
            onChange={(on) => onChange({ on: { ...layer.on, [place]: on } })}
          >
            {PLACE_NAMES[place]}
          </Checkbox>
        ))}
      </fieldset>
      {!technique?.takes_away && below.some((one) => one.hex) && (
        <Meets layer={layer} below={below} onChange={onChange} />
      )}
      {technique?.grits.length === 0 && (
        <Film layer={layer} predicted={predicted} takesAway={technique.takes_away} onChange={onChange} />
      )}
    </div>
  );
}

/** How rough: in a word, and µm from tip to hollow. */
const textureWords = (um: number) => {
  const word = um < 12 ? 'smooth' : um < 80 ? 'brush marks' : um < 200 ? 'ridges' : 'peaks';
  return um < 1 ? word : `${word}, ${Math.round(um)} µm`;
};

function Amount(slide: ComponentProps<typeof Slide>) {
  return (
    <div>
      <p className="flex justify-between text-sm">
        <span className="font-semibold">{slide.label}</span>
        <span>{slide.shown}</span>
      </p>
      <Slide {...slide} />
    </div>
  );
}
