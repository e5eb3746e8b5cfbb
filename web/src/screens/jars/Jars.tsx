import { Printer } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { JarView } from '../../api/client';
import { useInLights } from '../../light/light';
import { Drawdown } from '../../parts/Drawdown';
import { Segments } from '../../parts/Segments';
import { Failed, Waiting } from '../../parts/Waiting';
import { useJars } from '../../state/jars';
import { useMe } from '../../state/network';
import { Keeps } from './Keeps';

const ORDERS = [
  { id: 'place', name: 'By place' },
  { id: 'client', name: 'By client' },
] as const;

type Order = (typeof ORDERS)[number]['id'];

const NOWHERE = { place: 'No place noted', client: 'For anybody' };

/** What is left of earlier pots, by shelf or by client. */
export function Jars() {
  const jars = useJars();
  const guest = useMe().data?.role === 'guest';
  const [order, setOrder] = useState<Order>('place');
  useInLights(jars.data?.jars.map(({ swatch }) => swatch?.lights ?? []));
  if (guest) return <p className="p-5">Jars are shown to the workshop only: they name its clients.</p>;
  if (jars.isError && !jars.data) return <Failed error={jars.error} retry={() => jars.refetch()} />;
  if (!jars.data) return <Waiting rows={6} />;
  const { jars: all, to_see_to } = jars.data;
  // Where something is to be seen to comes first, as in the list.
  const groups = [...new Set(all.map((jar) => jar[order] ?? NOWHERE[order]))];
  return (
    <div className="grid max-w-4xl content-start gap-5 px-4 pt-2 pb-8 md:px-5">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="mr-auto text-3xl">Jars</h1>
        {all.length > 0 && (
          <>
            <Segments label="Order" choices={ORDERS} value={order} onChange={setOrder} />
            <Link to="/jars/labels" className="press press-plain">
              <Printer size={18} aria-hidden /> Labels
            </Link>
          </>
        )}
      </div>
      {all.length === 0 && (
        <p className="max-w-prose text-soft">
          No jars yet. When some of a pot is left over, finish the pour and choose “Keep the rest” beside it.
        </p>
      )}
      {to_see_to > 0 && (
        <p className="text-lg">{to_see_to === 1 ? 'One jar needs' : `${to_see_to} jars need`} a look.</p>
      )}
      {groups.map((group) => (
        <section key={group} aria-label={group} className="grid gap-1">
          <h2 className="text-xl">
            <bdi>{group}</bdi>
          </h2>
          <ul className="grid gap-px">
            {all
              .filter((jar) => (jar[order] ?? NOWHERE[order]) === group)
              .map((jar) => (
                <Row key={jar.id} jar={jar} beside={order === 'place' ? jar.client : jar.place} />
              ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

function Row({ jar, beside }: { jar: JarView; beside: string | null | undefined }) {
  return (
    <li>
      <Link
        to={`/jars/${jar.id}`}
        className="grid grid-cols-[5rem_minmax(0,1fr)_auto] items-stretch gap-x-3 bg-panel hover:bg-paper"
      >
        <Drawdown swatch={jar.swatch ?? undefined} className="min-h-16" />
        <span className="py-2 leading-tight">
          <span className="block font-semibold">
            <bdi>{jar.name ?? jar.recipe}</bdi>
          </span>
          <Keeps jar={jar} />
        </span>
        <span className="grid max-w-56 content-center justify-items-end pr-3 text-right leading-tight max-sm:max-w-28">
          <span className="text-lg font-semibold">{jar.left}</span>
          <span className="text-sm text-soft">
            {beside && (
              <>
                <bdi>{beside}</bdi>,{' '}
              </>
            )}
            {jar.code}
          </span>
        </span>
      </Link>
    </li>
  );
}
