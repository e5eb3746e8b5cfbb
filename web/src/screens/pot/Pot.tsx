import { useEffect, useRef } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { Mix } from '../../api/client';
import { useInTurn } from '../../parts/useAction';
import { Failed, Waiting } from '../../parts/Waiting';
import { useMixCalls, useMixes, usePaints } from '../../state/workspace';
import { Bench } from './Bench';
import { EmptyBench } from './EmptyBench';
import { EMPTY, put } from './entry';
import { Tray } from './Tray';

const NOTHING: string[] = [];

/** The mixing bench: the shelf to pick from, and one mix at a time. Without one in the address, a bare bench. */
export function Pot() {
  const { id } = useParams();
  const go = useNavigate();
  const inTurn = useInTurn();
  const paints = usePaints();
  const mixes = useMixes();
  const calls = useMixCalls();
  const open = mixes.data?.find((mix) => mix.id === id);

  // Who picks quickly goes on with the mix that was begun, also before it is on the screen.
  const begun = useRef<Mix>(undefined);
  useEffect(() => {
    if (!id) begun.current = undefined;
  }, [id]);
  const begin = (paint: string) =>
    inTurn('Couldn’t create the mix', async () => {
      const { current } = begun;
      begun.current = await (current
        ? calls.change(current, put(current.entry, paint))
        : calls.make(put(EMPTY, paint)));
      void go(`/pot/${begun.current.id}`);
    });

  const aim = () =>
    inTurn('Couldn’t create the mix', async () => {
      const { id } = await calls.make(EMPTY);
      void go(`/pot/${id}?use=match&aim`);
    });

  const failed = [paints, mixes].find((query) => query.isError && !query.data);
  if (failed?.error) return <Failed error={failed.error} retry={() => failed.refetch()} />;
  // A list that was seen in this light before may not know the mix yet.
  if (!paints.data || !mixes.data || (id && !open && mixes.isFetching)) return <Waiting rows={12} />;
  if (open) return <Bench key={open.id} mix={open} mixes={mixes.data} shelf={paints.data} />;
  return (
    <div className="flex flex-col lg:h-full lg:flex-row">
      <Tray shelf={paints.data} mixes={mixes.data} inPot={NOTHING} onPick={begin} />
      <EmptyBench shelf={paints.data.length} gone={id !== undefined} onAim={aim} />
    </div>
  );
}
