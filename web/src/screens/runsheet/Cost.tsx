import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { RunSheetView } from '../../api/client';
import { TinCosts } from '../../common/TinCosts';
import { plainNumber } from '../../parts/numbers';
import { clockOf, lasting } from '../../parts/times';
import { useMoney, useMoneyBetween } from '../../state/workshop';
import { Rate } from './Rate';

/** What it comes to, and what another way of doing it would. */
export function Cost({ sheet, piece }: { sheet: RunSheetView; piece: string }) {
  const money = useMoney();
  const between = useMoneyBetween();
  const { entry, cost, paces, schemes, schools } = sheet;
  const { least, most } = cost.price_between;
  const clock = clockOf(entry.hours.zone);
  return (
    <div className="grid gap-3">
      <div className="grid gap-px">
        <Row name="Paints and products" value={cost.materials}>
          <TinCosts tins={cost.tins} />
          <p className="text-soft">A paint’s price is on its page.</p>
        </Row>
        <Row name={`Work, ${cost.hours_words}`} value={cost.work}>
          <p>
            {entry.hour == null
              ? 'No hourly rate yet.'
              : `${Math.round(cost.hours)} h at ${money(entry.hour)}. Each step says how long it takes and why.`}
          </p>
          <Rate piece={piece} entry={entry} rate="hour" />
        </Row>
        <Row name="Overhead" value={cost.overhead}>
          <p>A share of materials and work, for rent, heating and tools.</p>
          <Rate piece={piece} entry={entry} rate="overhead" />
        </Row>
        <Row name="Asking price" value={cost.price} isSum>
          <p>All of this, and a margin of so much of the price on top.</p>
          <Rate piece={piece} entry={entry} rate="margin" />
        </Row>
      </div>
      {Math.round(least) < Math.round(most) && (
        <p className="px-3 text-sm">Likely {between(least, most)}: it depends on your pace.</p>
      )}
      <p className="text-sm text-soft">
        {cost.price_per_area != null && `${money(cost.price_per_area)} a ${cost.area_unit}. `}
        {cost.budget != null && `The brief allows ${money(cost.budget)}.`}
      </p>
      <Link
        to="/quotes"
        className="w-fit px-3 text-sm font-semibold underline underline-offset-3 print:hidden"
      >
        Quotes
      </Link>
      {cost.buyers && (
        <p className="text-sm">
          {cost.buyers.what}.
          <span className="block text-soft first-letter:uppercase">{cost.buyers.from}.</span>
        </p>
      )}
      {schemes.length > 1 && (
        <section aria-label="Schemes from here on" className="grid gap-1 print:hidden">
          <h2 className="text-lg">Schemes from here on</h2>
          <ul className="grid gap-px">
            {schemes.map((scheme) => (
              <li key={scheme.name} className="bg-panel px-3 py-2">
                <p className={scheme.chosen ? 'font-semibold' : ''}>
                  {scheme.name}
                  {scheme.chosen && ' (this one)'}
                </p>
                <p className="text-sm text-soft">
                  {scheme.ends && `Ready ${clock.short(scheme.ends)}, ${lasting(scheme.minutes)} of work, `}
                  {money(scheme.materials)} of paint
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}
      {schools.length > 0 && (
        <section aria-label="Other methods" className="grid gap-1 print:hidden">
          <h2 className="text-lg">Other methods</h2>
          <ul className="grid gap-px">
            {schools.map((school) => (
              <li key={school.words} className="bg-panel px-3 py-2">
                <p>{school.words}</p>
                <p className="text-sm">{difference(school)}</p>
                <p className="text-sm text-soft first-letter:uppercase">{school.why}.</p>
              </li>
            ))}
          </ul>
        </section>
      )}
      {paces.length > 0 && (
        <section aria-label="Your pace" className="grid gap-1 print:hidden">
          <h2 className="text-lg">Your pace</h2>
          <ul className="text-sm">
            {paces.map(({ technique, factor, within }) => (
              <li key={technique}>
                {technique}: {plainNumber(factor)} × the usual time, give or take × {plainNumber(within)}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** An amount of money, and what it is made of when it is opened. */
function Row(props: { name: string; value: number; isSum?: boolean; children: ReactNode }) {
  const { name, value, isSum = false, children } = props;
  const money = useMoney();
  return (
    <details className={isSum ? 'bg-paper' : 'bg-panel'}>
      <summary
        className={`flex min-h-11 cursor-pointer items-baseline justify-between px-3 py-2 ${isSum ? 'font-semibold' : ''}`}
      >
        <span className="underline decoration-dotted underline-offset-4">{name}</span>
        <span className={isSum ? 'text-xl' : ''}>{money(value)}</span>
      </summary>
      <div className="grid gap-2 px-3 pb-3 text-sm">{children}</div>
    </details>
  );
}

/** `2 days sooner, 1 h 20 min less work` */
function difference({ days, minutes }: RunSheetView['schools'][number]) {
  const count = Math.abs(days) === 1 ? 'A day' : `${Math.abs(days)} days`;
  const day = days === 0 ? 'Ready the same day' : `${count} ${days < 0 ? 'sooner' : 'later'}`;
  const hardly = Math.abs(minutes) < 5;
  const work = hardly
    ? 'as much work'
    : `${lasting(Math.abs(minutes))} ${minutes < 0 ? 'less' : 'more'} work`;
  return `${day}, ${work}`;
}
