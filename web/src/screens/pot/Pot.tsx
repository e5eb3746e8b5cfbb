import { useNavigate, useParams } from 'react-router';
import { useTell } from '../../parts/Notice';
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
  const tell = useTell();
  const paints = usePaints();
  const mixes = useMixes();
  const calls = useMixCalls();
  const open = mixes.data?.find((mix) => mix.id === id);

  const begin = async (paint: string) => {
    try {
      const mix = await calls.make(put(EMPTY, paint));
      go(`/pot/${mix.id}`);
    } catch {
      tell('The mix was not begun: the program does not answer');
    }
  };

  const failed = [paints, mixes].find((query) => query.isError && !query.data);
  if (failed?.error) return <Failed error={failed.error} retry={() => failed.refetch()} />;
  if (!paints.data || !mixes.data) return <Waiting rows={12} />;
  if (open) return <Bench key={open.id} mix={open} mixes={mixes.data} shelf={paints.data} />;
  return (
    <div className="flex flex-col lg:h-full lg:flex-row">
      <Tray shelf={paints.data} mixes={mixes.data} inPot={NOTHING} onPick={begin} />
      <EmptyBench shelf={paints.data.length} gone={id !== undefined} />
    </div>
  );
}
