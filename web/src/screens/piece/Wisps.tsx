import { Plus, X } from 'lucide-react';
import type { Stencil, ZoneView } from '../../api/client';
import { Checkbox } from '../../parts/Checkbox';
import { Named } from '../../parts/Named';
import { Picker } from '../../parts/Picker';
import { PotPicker } from './PotPicker';
import { type Choice, samePot } from './pots';

interface Props {
  stencil: Stencil;
  pots: Choice[];
  /** Parts whose colours it can take over. */
  others: ZoneView[];
  /** Greatest number of colours. */
  most: number;
  /** True if its motif has petals. */
  petals: boolean;
  onChange: (stencil: Stencil) => void;
}

const OWN = 'own';

/** The colours of a pattern: one of the whole, and up to three more wisped over it or in turn; or those of another part in one touch. */
export function Wisps({ stencil, pots, others, most, petals, onChange }: Props) {
  const wisps = stencil.wisps ?? [];
  const put = (wisps: NonNullable<Stencil['wisps']>) => onChange({ ...stencil, wisps });
  const coloured = others.filter((zone) => zone.pots.length > 0);
  const own = [stencil.pot, ...wisps, ...(stencil.edge ? [stencil.edge] : [])];
  const alike = (pots: typeof own) =>
    pots.length === own.length && own.every((pot, n) => samePot(pot, pots[n] ?? []));
  const like = coloured.find((zone) => alike(zone.pots))?.zone ?? OWN;
  const another = pots.find(({ pot }) => !samePot(pot, stencil.pot)) ?? pots[0];
  const turn = petals ? 'On petals in turn' : 'On repeats in turn';
  return (
    <div className="grid gap-2">
      {coloured.length > 0 && (
        <Picker
          label="Colours of"
          className="w-full min-w-0 *:truncate"
          choices={[
            { id: OWN, name: 'Its own colours' },
            ...coloured.map(({ zone, name }) => ({ id: zone, name: `Colours of the ${name.toLowerCase()}` })),
          ]}
          value={like}
          onChange={(id) => {
            const [pot, ...wisps] = coloured.find(({ zone }) => zone === id)?.pots ?? [];
            if (pot) onChange({ ...stencil, pot, wisps, edge: null });
          }}
        />
      )}
      <Named name="Colour">
        <PotPicker
          label="Colour of the pattern"
          pots={pots}
          pot={stencil.pot}
          onChange={(pot) => onChange({ ...stencil, pot })}
        />
      </Named>
      {wisps.map((pot, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a colour is its place
        <div key={n} className="flex items-end gap-1">
          <Named name={stencil.in_turn ? turn : 'Wisped over it'} className="min-w-0 flex-1">
            <PotPicker
              label={`${stencil.in_turn ? 'Colour' : 'Wisped colour'} ${n + 2}`}
              pots={pots}
              pot={pot}
              onChange={(next) => put(wisps.with(n, next))}
            />
          </Named>
          <button
            type="button"
            className="press press-bare"
            aria-label={`Remove colour ${n + 2}`}
            onClick={() => put(wisps.toSpliced(n, 1))}
          >
            <X size={18} aria-hidden />
          </button>
        </div>
      ))}
      {wisps.length > 0 && (
        <Checkbox
          checked={stencil.in_turn ?? false}
          onChange={(in_turn) => onChange({ ...stencil, in_turn })}
        >
          {petals ? 'Petal by petal: colours take turns' : 'Repeat by repeat: colours take turns'}
        </Checkbox>
      )}
      {stencil.edge && (
        <div className="flex items-end gap-1">
          <Named name="Edges" className="min-w-0 flex-1">
            <PotPicker
              label="Colour of the edges"
              pots={pots}
              pot={stencil.edge}
              onChange={(edge) => onChange({ ...stencil, edge })}
            />
          </Named>
          <button
            type="button"
            className="press press-bare"
            aria-label="Remove the edges"
            onClick={() => onChange({ ...stencil, edge: null })}
          >
            <X size={18} aria-hidden />
          </button>
        </div>
      )}
      {own.length < most && another && (
        <div className="-ml-2 flex flex-wrap">
          <button
            type="button"
            className="press press-bare text-sm"
            onClick={() => put([...wisps, another.pot])}
          >
            <Plus size={18} aria-hidden />{' '}
            {stencil.in_turn ? 'Add another colour' : 'Wisp another colour over it'}
          </button>
          {!stencil.edge && (
            <button
              type="button"
              className="press press-bare text-sm"
              onClick={() => onChange({ ...stencil, edge: another.pot })}
            >
              <Plus size={18} aria-hidden /> Shade the edges
            </button>
          )}
        </div>
      )}
    </div>
  );
}
