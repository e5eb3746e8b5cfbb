import { useState } from 'react';
import type { Paint, TestWorth } from '../../api/client';
import { Conflict } from '../../common/Conflict';
import { Failed } from '../../parts/Waiting';
import { useDraft } from '../../state/useDraft';
import { usePaintCalls, usePaintPage } from '../../state/workspace';
import { Aside } from './Aside';
import { HowSure } from './HowSure';
import { Looks } from './Looks';
import { PaintFields } from './PaintFields';
import { Readings } from './Readings';
import { TestFlow } from './TestFlow';
import { TinActions } from './TinActions';

interface Props {
  paint: Paint;
  shelf: Paint[];
  onClose: () => void;
  onGo: (id: string) => void;
}

/** A tin on the shelf: how it looks, how sure that is, what to test next, what was read; every change is kept at once. */
export function PaintPage({ paint, shelf, onClose, onGo }: Props) {
  const calls = usePaintCalls();
  const draft = useDraft(paint, calls.put(paint.id), calls.get(paint.id), calls.saved);
  const page = usePaintPage(paint.id);
  const [testing, setTesting] = useState<TestWorth>();

  return (
    <Aside
      wide
      paint={paint.id}
      title={paint.entry.name}
      swatch={page.data?.paint.swatch ?? paint.swatch}
      onClose={onClose}
    >
      {draft.conflict && <Conflict what="paint" conflict={draft.conflict} />}
      <div className="grid items-start gap-x-8 gap-y-6 wide:grid-cols-[minmax(0,1fr)_19rem]">
        <div className="grid min-w-0 gap-6">
          {page.isError && !page.data && <Failed error={page.error} retry={() => page.refetch()} />}
          {page.data && (
            <>
              {!paint.medium && <HowSure page={page.data} shelf={shelf} onTest={setTesting} />}
              <Looks looks={page.data.looks} />
              <Readings readings={page.data.readings} paint={paint.id} />
            </>
          )}
        </div>
        <section aria-label="On the tin" className="grid gap-4">
          <h3 className="font-display text-xl font-semibold">On the tin</h3>
          <PaintFields key={draft.origin} entry={draft.entry} onChange={draft.type} problem={draft.problem} />
          <TinActions paint={paint} shelf={shelf} onClose={onClose} onGo={onGo} />
        </section>
      </div>
      {testing && (
        <TestFlow key={testing.test} test={testing} paint={paint} onClose={() => setTesting(undefined)} />
      )}
    </Aside>
  );
}
