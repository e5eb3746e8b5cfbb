import { useState } from 'react';
import type { BoardInList, Finish, Mix, Paint, Piece, PieceChoices, ZoneView } from '../../api/client';
import { share } from '../../parts/numbers';
import { Picker } from '../../parts/Picker';
import { SlideRow } from '../../parts/SlideRow';
import { BlendOf } from './BlendOf';
import { ageingOf, blendOf, schemeOf, stripOf, withoutWorn, withWorn, wornBy } from './entry';
import { GroundOf } from './GroundOf';
import { potsOf } from './pots';
import { StencilOf } from './StencilOf';

interface Props {
  entry: Piece;
  zone: ZoneView;
  zones: ZoneView[];
  choices: PieceChoices;
  boards: BoardInList[];
  shelf: Paint[];
  mixes: Mix[];
  onShow: (entry: Piece) => void;
  onChange: (entry: Piece) => void;
}

/** What one zone wears, and how old it looks. */
export function Wears({ entry, zone, zones, choices, boards, shelf, mixes, onShow, onChange }: Props) {
  const worn = wornBy(schemeOf(entry), zone.zone);
  const [onStrip, blend] = [stripOf(worn.wears), blendOf(worn.wears)];
  const put = (wears: Finish) => onChange(withWorn(entry, zone.zone, { wears }));
  const [ageing, setAgeing] = useState(ageingOf(worn));
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
    { id: 'blend', name: 'A blend of colours' },
  ];
  const value = zone.carried_from
    ? 'carried'
    : onStrip
      ? `${onStrip.board} ${onStrip.strip}`
      : blend
        ? 'blend'
        : 'bare';
  const known = finishes.some(({ id }) => id === value);
  const first = shelf.filter((paint) => !paint.medium);
  const wear = (id: string) => {
    const [board, strip] = id.split(' ');
    if (id === 'carried') onChange(withoutWorn(entry, zone.zone));
    else if (id === 'bare') put('bare');
    else if (id === 'blend') {
      const [one, other] = [first[0], first[1] ?? first[0]];
      if (!one || !other) return;
      const bands = [
        { pot: [{ paint: one.id, parts: 1 }], at: 0 },
        { pot: [{ paint: other.id, parts: 1 }], at: 1 },
      ];
      put({ blend: { way: 'down', bands } });
    } else if (board && strip) put({ strip: { board, strip } });
  };
  return (
    <section aria-label={`Finish of ${zone.name.toLowerCase()}`} className="grid gap-2">
      <h2 className="text-xl">{zone.name}</h2>
      <Picker
        label="Finish"
        className="w-full min-w-0 *:truncate"
        choices={known ? finishes : [{ id: value, name: zone.wears }, ...finishes]}
        value={value}
        onChange={wear}
      />
      <GroundOf
        zone={zone}
        pieces={entry.ground}
        own={worn.ground ?? undefined}
        onChange={(ground) => onChange(withWorn(entry, zone.zone, { ground }))}
      />
      {blend && <BlendOf blend={blend} pots={potsOf(first, mixes)} onChange={(blend) => put({ blend })} />}
      {zone.carried_from ? (
        <p className="text-sm text-soft">
          Same finish as the front, wear and grime included. Choose another to give the sides their own.
        </p>
      ) : (
        <>
          <StencilOf
            zone={zone}
            stencil={worn.stencil}
            choices={choices}
            pots={potsOf(
              first,
              mixes,
              zones.filter((one) => one.zone !== zone.zone),
            )}
            onShow={(stencil) => onShow(withWorn(entry, zone.zone, { stencil }))}
            onChange={(stencil) => onChange(withWorn(entry, zone.zone, { stencil }))}
          />
          <div className="grid">
            {choices.ages.map(({ id, name }) => {
              const age = id as keyof typeof ageing;
              const amount = ageing[age];
              const next = (value: number) => ({ ...ageing, [age]: value });
              return (
                <SlideRow
                  key={id}
                  name={name}
                  label={name}
                  shown={share(amount)}
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
            })}
          </div>
        </>
      )}
    </section>
  );
}
