import type { RunSheetView } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { FullScreen } from '../../parts/FullScreen';
import { type clockOf, lasting } from '../../parts/times';
import { Tick } from './Tick';

interface Props {
  piece: string;
  sheet: RunSheetView;
  clock: ReturnType<typeof clockOf>;
}

/** The step at hand in letters that are read across the workshop. */
export function AcrossTheRoom({ piece, sheet, clock }: Props) {
  const [now, next] = sheet.steps;
  if (!now) return null;
  const waits = !now.clock?.runs && new Date(now.begins).getTime() - Date.now() > 60_000;
  return (
    <FullScreen
      title={waits ? `Begins ${clock.both(now.begins)}` : 'Now'}
      trigger={
        <button type="button" className="press press-bare px-2.5 text-sm">
          Full screen
        </button>
      }
    >
      <div className="flex min-h-0 flex-1 flex-col gap-[2vmin] overflow-auto px-5 pb-5">
        {now.swatch && <Drawdown swatch={now.swatch} className="min-h-24 flex-1" />}
        <p className="text-[clamp(2.25rem,8vw,6.5rem)] leading-none font-semibold text-balance">{now.name}</p>
        <p className="text-[clamp(1.25rem,3.6vw,3rem)] leading-tight">
          {now.pot && `${now.pot}${now.amount ? `, ${now.amount}` : ''} · `}
          {now.zones.join(', ')}
        </p>
        {now.wet_edge && (
          <p className="text-[clamp(1.1rem,2.4vw,2rem)] leading-tight">{now.wet_edge.words}.</p>
        )}
        {now.care.map(({ words }) => (
          <p key={words} className="text-[clamp(1.1rem,2.4vw,2rem)] leading-tight">
            <b className="font-semibold">Safety: </b>
            {words}
          </p>
        ))}
        <div className="mt-auto flex flex-wrap items-center gap-x-6 gap-y-2 text-[clamp(1.1rem,2.4vw,2rem)]">
          {now.ready && <Tick key={now.id} piece={piece} revision={sheet.revision} step={now} size="room" />}
          <span>{lasting(now.minutes)}</span>
          {next && <span className="text-soft">then {next.name.toLowerCase()}</span>}
        </div>
      </div>
    </FullScreen>
  );
}
