import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Swatch } from '../../api/client';
import { Term } from '../../common/Term';
import { Doubt } from '../../parts/Doubt';
import { Drawdown } from '../../parts/Drawdown';
import { FullScreen } from '../../parts/FullScreen';
import { coats, labWords } from '../../parts/numbers';

interface Props {
  title: string;
  /** Whether it takes the rest of the screen, or stands narrow beside the shelf. */
  wide?: boolean;
  /** The paint that terms are explained with. */
  paint?: string;
  swatch: Swatch | undefined;
  onClose: () => void;
  children: ReactNode;
}

/** One tin, opened beside the shelf: its drawdown large on top, what is known of it below. */
export function Aside({ title, wide = false, paint, swatch, onClose, children }: Props) {
  return (
    <section
      aria-label={title}
      className={`flex min-h-0 min-w-0 flex-col bg-panel max-lg:flex-1 ${wide ? 'flex-1' : 'w-full shrink-0 lg:w-96'}`}
      onKeyDown={(event) => event.key === 'Escape' && !event.defaultPrevented && onClose()}
    >
      <div className="flex min-h-14 shrink-0 items-center justify-between pl-5 pr-2">
        {/* On a phone it is the whole screen. */}
        <h1 className="sr-only lg:hidden">Shelf</h1>
        <h2 className="min-w-0 truncate text-2xl">
          <bdi>{title}</bdi>
        </h2>
        <button
          type="button"
          data-mark="close"
          className="press hover:bg-ground"
          aria-label="Close"
          onClick={onClose}
        >
          <X aria-hidden />
        </button>
      </div>
      <div className="relative min-h-0 flex-1 overflow-auto focus-visible:-outline-offset-3">
        <FullScreen
          title={title}
          trigger={
            <button
              type="button"
              aria-label={`${title}: fill the screen`}
              className="block w-full shrink-0 cursor-zoom-in"
            >
              <Drawdown swatch={swatch} className="h-36" />
            </button>
          }
        >
          <Drawdown swatch={swatch} className="flex-1" />
        </FullScreen>
        {wide && (
          <p className="flex justify-between px-5 pt-1 text-sm text-soft">
            <Term id="masstone" paint={paint}>
              masstone
            </Term>
            <Term id="drawdown" paint={paint}>
              drawdown
            </Term>
            <Term id="undertone" paint={paint}>
              undertone
            </Term>
          </p>
        )}
        <p className="flex min-h-10 flex-wrap items-center justify-between gap-x-4 px-5 text-sm text-soft">
          {swatch && (
            <>
              {swatch.hides_in ? (
                <Term id="coats-to-cover" paint={paint}>
                  Covers in {coats(swatch.hides_in)}
                </Term>
              ) : (
                <span>Clear: does not cover</span>
              )}
              <span>
                {labWords(swatch.face.lab)}
                {swatch.within > 0 && (
                  <>
                    , <Doubt value={swatch.within} />
                  </>
                )}
                {swatch.lustre && `, ${Math.round(swatch.lustre.share * 100)} % flakes`}
                {swatch.face.in_gamut ? '' : ', more vivid than this screen'}
              </span>
            </>
          )}
        </p>
        <div className="px-5 pb-5 pt-1">{children}</div>
      </div>
    </section>
  );
}
