import type { RunSheetView } from '../../api/client';
import { plainNumber } from '../../parts/numbers';
import { clockOf, lasting } from '../../parts/times';
import { useMoney, useMoneyBetween } from '../../state/workshop';

/** What it comes to, and what another way of doing it would. */
export function Cost({ sheet }: { sheet: RunSheetView }) {
  const money = useMoney();
  const between = useMoneyBetween();
  const { cost, paces, schemes, schools } = sheet;
  const clock = clockOf(sheet.entry.hours.zone);
  const { least, most } = cost.price_between;
  const rows = [
    ['Paints and products', cost.materials],
    [`Work, ${cost.hours_words}`, cost.work],
    ['Overhead', cost.overhead],
  ] as const;
  return (
    <div className="grid gap-3">
      <dl className="grid gap-px">
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between bg-panel px-3 py-2">
            <dt>{name}</dt>
            <dd>{money(value)}</dd>
          </div>
        ))}
        <div className="flex items-baseline justify-between bg-paper px-3 py-2 font-semibold">
          <dt>Asking price</dt>
          <dd className="text-xl">{money(cost.price)}</dd>
        </div>
      </dl>
      {Math.round(least) < Math.round(most) && (
        <p className="px-3 text-sm">Likely {between(least, most)}: it depends on your pace.</p>
      )}
      <p className="text-sm text-soft">
        {cost.price_per_area != null && `${money(cost.price_per_area)} a ${cost.area_unit}. `}
        {cost.budget != null && `The brief allows ${money(cost.budget)}.`}
      </p>
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
