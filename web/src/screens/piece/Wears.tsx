import { type ReactNode, useState } from 'react';
import type { BoardInList, Finish, Mix, Paint, Piece, PieceChoices, ZoneView } from '../../api/client';
import { useTell } from '../../parts/Notice';
import { Picker } from '../../parts/Picker';
import { SlideRow } from '../../parts/SlideRow';
import { BlendOf } from './BlendOf';
import {
  ageingOf,
  blendOf,
  paintedOf,
  potOf,
  schemeOf,
  stripOf,
  withAllIn,
  withoutWorn,
  withWorn,
  wornBy,
} from './entry';
import { GroundOf, GroundWarning } from './GroundOf';
import { PotPicker } from './PotPicker';
import { potsOf } from './pots';
import { Repairs } from './Repairs';
import { StencilOf } from './StencilOf';

interface Props {
  entry: Piece;
  zone: ZoneView;
  zones: ZoneView[];
  choices: PieceChoices;
  boards: BoardInList[];
  shelf: Paint[];
  mixes: Mix[];
  /** Shown instead of the zone’s name. */
  heading?: ReactNode;
  onShow: (entry: Piece) => void;
  onChange: (entry: Piece) => void;
}

/** The ageing that nearly every piece gets. */
const OFTEN = ['wear', 'grime'];

/** How much of an ageing there is, in words. */
const amountWords = (share: number) => {
  if (share === 0) return 'none';
  if (share <= 0.2) return 'a little';
  if (share <= 0.5) return 'some';
  return share <= 0.8 ? 'a lot' : 'heavy';
};

/** What one zone wears, and how old it looks. */
export function Wears({
  entry,
  zone,
  zones,
  choices,
  boards,
  shelf,
  mixes,
  heading,
  onShow,
  onChange,
}: Props) {
  const worn = wornBy(schemeOf(entry), zone.zone);
  const [onStrip, paint, blend] = [stripOf(worn.wears), potOf(worn.wears), blendOf(worn.wears)];
  const put = (wears: Finish) => onChange(withWorn(entry, zone.zone, { wears }));
  const [ageing, setAgeing] = useState(ageingOf(worn));
  const tell = useTell();
  const strips = boards.flatMap((board) =>
    board.strips.map((strip) => ({
      id: `${board.id} ${strip}`,
      name: board.strips.length > 1 ? `${board.name}, strip ${strip}` : board.name,
    })),
  );
  const finishes = [
    ...(zone.takes_after ? [{ id: 'carried', name: `Same as the ${zone.takes_after.toLowerCase()}` }] : []),
    { id: 'bare', name: 'Leave as it is' },
    ...strips,
    { id: 'paint', name: 'Plain paint' },
    { id: 'blend', name: 'A blend of colours' },
  ];
  const value = zone.carried_from
    ? 'carried'
    : onStrip
      ? `${onStrip.board} ${onStrip.strip}`
      : paint
        ? 'paint'
        : blend
          ? 'blend'
          : 'bare';
  const known = finishes.some(({ id }) => id === value);
  const first = shelf.filter((paint) => !paint.medium);
  const pots = potsOf(first, mixes);
  const wear = (id: string) => {
    const [board, strip] = id.split(' ');
    if (id === 'carried') onChange(withoutWorn(entry, zone.zone));
    else if (id === 'bare') put('bare');
    else if (id === 'paint') {
      const pot = zone.main.length > 0 ? zone.main : pots[0]?.pot;
      if (pot) put({ paint: { pot } });
    } else if (id === 'blend') {
      const [one, other] = [first[0], first[1] ?? first[0]];
      if (!one || !other) return;
      const bands = [
        { pot: [{ paint: one.id, parts: 1 }], at: 0 },
        { pot: [{ paint: other.id, parts: 1 }], at: 1 },
      ];
      put({ blend: { way: 'down', bands } });
    } else if (board && strip) put({ strip: { board, strip } });
  };
  const others = paintedOf(zones).filter((one) => one.zone !== zone.zone);
  const alike = others.every((one) => one.wears === zone.wears);
  const dressAll = () => {
    onChange(
      withAllIn(
        entry,
        [zone, ...others].map((one) => one.zone),
        worn.wears,
      ),
    );
    // A pattern is not carried to the others.
    tell(`Every part wears ${zone.stencil ? 'the same' : zone.wears}. Undo takes it back.`);
  };
  const aged = (of: string[]) =>
    choices.ages
      .filter(({ id }) => of.includes(id))
      .map(({ id, name }) => {
        const age = id as keyof typeof ageing;
        const amount = ageing[age];
        const next = (value: number) => ({ ...ageing, [age]: value });
        return (
          <SlideRow
            key={id}
            name={name}
            room="w-14"
            label={name}
            shown={amountWords(amount)}
            value={amount}
            from={0}
            to={1}
            step={0.05}
            onShow={(value) => {
              setAgeing(next(value));
              onShow(withWorn(entry, zone.zone, { ageing: next(value) }));
            }}
            onChange={(value) => onChange(withWorn(entry, zone.zone, { ageing: next(value) }))}
          />
        );
      });
  const rarely = choices.ages.map(({ id }) => id).filter((id) => !OFTEN.includes(id));
  const special =
    Boolean(worn.stencil ?? worn.ground) || rarely.some((id) => ageing[id as keyof typeof ageing] > 0);
  return (
    <section
      aria-label={`Finish of ${zone.name.toLowerCase()}`}
      className="grid gap-2 border-t border-line pt-4"
    >
      <div className="flex items-baseline justify-between gap-2">
        {heading ?? <h2 className="text-xl">{zone.name}</h2>}
        <p className="text-sm text-soft">
          {zone.area}, edges {zone.edge}
        </p>
      </div>
      <div data-mark="finish">
        <Picker
          label="Finish"
          className="w-full min-w-0 *:truncate"
          choices={known ? finishes : [{ id: value, name: zone.wears }, ...finishes]}
          value={value}
          onChange={wear}
        />
      </div>
      {paint && (
        <PotPicker label="Paint" pots={pots} pot={paint} onChange={(pot) => put({ paint: { pot } })} />
      )}
      {blend && <BlendOf blend={blend} pots={pots} onChange={(blend) => put({ blend })} />}
      {value !== 'bare' && value !== 'carried' && !alike && (
        <button
          type="button"
          data-mark="dress every part"
          className="press press-bare -ml-2 justify-self-start text-sm"
          onClick={dressAll}
        >
          Dress every part like this
        </button>
      )}
      <GroundWarning zone={zone} />
      {zone.carried_from ? (
        <p className="text-sm text-soft">
          Same finish as the front, wear and grime included. Choose another to give the sides their own.
        </p>
      ) : (
        <>
          <div className="grid">{aged(OFTEN)}</div>
          <details open={special}>
            <summary className="min-h-11 cursor-pointer py-3 text-sm font-semibold">
              More ageing, pattern, surface, repairs
            </summary>
            <div className="grid gap-2">
              <div className="grid">{aged(rarely)}</div>
              <StencilOf
                zone={zone}
                stencil={worn.stencil}
                choices={choices}
                pots={potsOf(first, mixes, others)}
                others={others}
                onShow={(stencil) => onShow(withWorn(entry, zone.zone, { stencil }))}
                onChange={(stencil) => onChange(withWorn(entry, zone.zone, { stencil }))}
              />
              <GroundOf
                zone={zone}
                pieces={entry.ground}
                own={worn.ground ?? undefined}
                onChange={(ground) => onChange(withWorn(entry, zone.zone, { ground }))}
              />
              <Repairs entry={entry} zone={zone.zone} choices={choices} onChange={onChange} />
            </div>
          </details>
        </>
      )}
    </section>
  );
}
