import { ArrowLeft, PaintBucket, Tag } from 'lucide-react';
import { useRef } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { JarView } from '../../api/client';
import { useInLights } from '../../light/light';
import { Drawdown } from '../../parts/Drawdown';
import { keyed } from '../../parts/keyed';
import { useTell } from '../../parts/Notice';
import { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { Failed, Waiting } from '../../parts/Waiting';
import { useJar, useJarCalls } from '../../state/jars';
import { usePours } from '../../state/pours';
import { useUnitScale } from '../../state/scales';
import { useToPot } from '../../state/useToPot';
import { AmountForm } from '../pot/pour/AmountForm';
import { JarForm } from './JarForm';
import { Keeps } from './Keeps';

/** One jar, or the finished pot that is about to become one. */
export function Jar() {
  const { id = '' } = useParams();
  const pours = usePours();
  const pour = pours.data?.find((one) => one.id === id);
  const jar = useJar(id, pour?.jar_ml != null);
  useInLights(jar.data?.swatch ? [jar.data.swatch.lights] : undefined);
  if (pours.isError && !pours.data) return <Failed error={pours.error} retry={() => pours.refetch()} />;
  if (jar.isError && !jar.data) return <Failed error={jar.error} retry={() => jar.refetch()} />;
  if (!pours.data || (pour?.jar_ml != null && !jar.data)) return <Waiting rows={6} />;
  return (
    <div className="grid max-w-4xl content-start gap-5 px-4 pt-2 pb-8 md:px-5">
      <Link to="/jars" className="press press-bare -ml-2 w-fit text-sm">
        <ArrowLeft size={18} aria-hidden /> Jars
      </Link>
      {!pour && <p>This pot is no longer here. It may have been deleted; undo brings it back.</p>}
      {pour && pour.jar_ml == null && (
        <>
          <h1 className="text-3xl">
            Keep the rest of <bdi>{pour.name ?? pour.recipe}</bdi>
          </h1>
          {pour.open ? (
            <p>This pot is still being poured. Finish it first.</p>
          ) : (
            <JarForm id={id} poured={pour.total_ml} />
          )}
        </>
      )}
      {pour?.jar_ml != null && jar.data && <Kept key={id} jar={jar.data} />}
    </div>
  );
}

function Kept({ jar }: { jar: JarView }) {
  const clock = clockOf(undefined);
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-[12rem_1fr]">
        <Drawdown swatch={jar.swatch ?? undefined} className="h-36" />
        <div className="grid content-start gap-1">
          <h1 className="text-3xl">
            <bdi>{jar.name ?? jar.recipe}</bdi>
          </h1>
          <p className="text-2xl font-semibold">{jar.gone_at ? 'Thrown away' : `${jar.left} left`}</p>
          {!jar.gone_at && <Keeps jar={jar} />}
          <p className="text-sm text-soft">
            {jar.name && `${jar.recipe}. `}Jar {jar.code}, mixed {clock.short(jar.mixed_at)}
          </p>
        </div>
      </div>
      {!jar.gone_at && <Taking jar={jar} />}
      {jar.uses.length > 0 && (
        <section aria-label="Taken so far" className="grid gap-1">
          <h2 className="text-xl">Taken so far</h2>
          <ul className="text-sm">
            {keyed(jar.uses, ({ at }) => at).map(({ key, item: use }) => (
              <li key={key}>
                {use.amount}, {clock.short(use.at)}
              </li>
            ))}
          </ul>
        </section>
      )}
      {!jar.gone_at && (
        <section aria-label="About this jar" className="grid gap-2">
          <h2 className="text-xl">About this jar</h2>
          <JarForm key={`${jar.left_ml} ${jar.signs}`} id={jar.id} poured={jar.poured_ml} jar={jar} />
        </section>
      )}
      {!jar.gone_at && <Away jar={jar} />}
    </>
  );
}

function Taking({ jar }: { jar: JarView }) {
  const volume = useUnitScale('volume');
  const calls = useJarCalls(jar.id);
  const toPot = useToPot();
  const tell = useTell();
  const { attempt, busy } = useAction();
  // Until it was recorded, the same gesture is the same use.
  const use = useRef(crypto.randomUUID());
  const take = async (ml: number) => {
    const taken = await attempt('Couldn’t record that', async () => {
      const now = await calls.take(use.current, ml);
      tell(`Taken from the jar: ${now.left} left`);
      return true;
    });
    if (taken) use.current = crypto.randomUUID();
    return taken ?? false;
  };
  if (jar.left_ml <= 0) return <p>It is empty.</p>;
  return (
    <div className="flex flex-wrap items-start gap-2">
      <div className="w-72">
        <AmountForm
          label={`Take out, ${volume.unit}`}
          placeholder={`how much, ${volume.unit}`}
          unit={volume}
          action="Take out"
          ink
          onGive={take}
        />
      </div>
      <button
        type="button"
        className="press press-plain"
        disabled={busy}
        onClick={() => void take(jar.left_ml)}
      >
        Take all of it
      </button>
      <button
        type="button"
        className="press press-plain"
        disabled={busy}
        onClick={() => attempt('Couldn’t take it to the Pot', () => toPot(jar.parts, Math.ceil(jar.left_ml)))}
      >
        <PaintBucket size={18} aria-hidden /> Take to Pot
      </button>
      <Link to={`/label/${jar.id}`} className="press press-plain">
        <Tag size={18} aria-hidden /> Label
      </Link>
    </div>
  );
}

/** How to get rid of it, and that it is gone. */
function Away({ jar }: { jar: JarView }) {
  const calls = useJarCalls(jar.id);
  const tell = useTell();
  const go = useNavigate();
  const { attempt, busy } = useAction();
  return (
    <section aria-label="Throwing it away" className="grid gap-2 border-t border-line pt-4">
      <h2 className="text-xl">Throwing it away</h2>
      <p className="max-w-prose">
        {jar.disposal} <span className="text-sm text-soft">Source: {jar.disposal_source}.</span>
      </p>
      <button
        type="button"
        className="press press-plain w-fit"
        disabled={busy}
        onClick={() =>
          attempt('Couldn’t record that', async () => {
            await calls.throwAway();
            tell('Thrown away. Undo brings it back');
            void go('/jars');
          })
        }
      >
        It’s thrown away
      </button>
    </section>
  );
}
