import { useState } from 'react';
import { Link } from 'react-router';
import type { Board } from '../../api/client';
import { Guesses } from '../../parts/Guesses';
import { Panel } from '../../parts/Panel';
import { Failed } from '../../parts/Waiting';
import { useBoardReasons } from '../../state/guide';

/** What the prediction of a strip rests on. */
export function Why({ entry, letter }: { entry: Board; letter: string }) {
  const [open, setOpen] = useState(false);
  const { data, error, refetch } = useBoardReasons(entry, letter, open);
  const paint = data?.guesses[0]?.paint;
  return (
    <>
      <button type="button" className="press press-bare text-sm" onClick={() => setOpen(true)}>
        Why?
      </button>
      <Panel
        open={open}
        onClose={() => setOpen(false)}
        title="Why this look?"
        className="w-[min(40rem,94vw)]"
      >
        {error && <Failed error={error} retry={() => void refetch()} />}
        {!error && !data && <p className="text-soft">Painting it again and again…</p>}
        {data && (
          <div className="grid gap-5">
            <p className="font-display text-xl font-semibold">{data.words}</p>
            <p>
              {data.next}{' '}
              {paint && (
                <Link to={`/shelf/${paint}`} className="font-semibold underline underline-offset-3">
                  Test it
                </Link>
              )}
            </p>
            <Guesses guesses={data.guesses} within={data.within} />
          </div>
        )}
      </Panel>
    </>
  );
}
