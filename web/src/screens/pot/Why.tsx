import { Link } from 'react-router';
import type { MixEntry } from '../../api/client';
import { Doubt } from '../../parts/Doubt';
import { Guesses } from '../../parts/Guesses';
import { when } from '../../parts/numbers';
import { Panel } from '../../parts/Panel';
import { Failed } from '../../parts/Waiting';
import { useReasons } from '../../state/guide';

/** What the prediction of a mix rests on: readings, guesses, and the test that would help most. */
export function Why({ entry, open, onClose }: { entry: MixEntry; open: boolean; onClose: () => void }) {
  const { data, error, refetch } = useReasons(entry, open);
  return (
    <Panel open={open} onClose={onClose} title="Why this colour?" className="w-[min(40rem,94vw)]">
      {error && <Failed error={error} retry={() => void refetch()} />}
      {!error && !data && <p className="text-soft">Leaving out one reading at a time…</p>}
      {data && (
        <div className="grid gap-5">
          <p className="font-display text-xl font-semibold">{data.words}</p>
          {data.next && (
            <p>
              {data.next.words}{' '}
              <Link to={`/shelf/${data.next.paint}`} className="font-semibold underline underline-offset-3">
                Test it
              </Link>
            </p>
          )}
          <Guesses guesses={data.guesses} within={data.within} />
          <section aria-label="Readings it rests on" className="grid gap-1">
            <h3 className="font-semibold">Readings it rests on</h3>
            {data.evidence.length === 0 && (
              <p>
                {data.weighed === 0
                  ? 'None yet: it rests on labels and on what is usual for each type.'
                  : 'No single one: without any of them it would look the same.'}
              </p>
            )}
            <ul className="grid gap-2">
              {data.evidence.map((reading) => (
                <li key={reading.reading}>
                  <Link to={`/shelf/${reading.paint}`} className="font-semibold underline underline-offset-3">
                    {reading.sample}
                  </Link>
                  <span className="text-soft">, {when(reading.made_at)}</span>
                  <span className="block text-sm">
                    Without it: {reading.words}, <Doubt value={reading.within} />.
                  </span>
                </li>
              ))}
            </ul>
          </section>
        </div>
      )}
    </Panel>
  );
}
