// A workspace of thousands of readings that was never learnt from is shown as its labels say, and learnt meanwhile.

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { refresh, usePendingReadings } from '../state/workspace';

export function PendingReadings() {
  const client = useQueryClient();
  const readings = usePendingReadings();
  const before = useRef(0);
  useEffect(() => {
    // Whatever is on the screen is known better now.
    if (readings === 0 && before.current > 0) void refresh(client);
    before.current = readings;
  }, [client, readings]);
  return (
    <div role="status" className="print:hidden">
      {readings > 0 && (
        <p className="bg-ink px-4 py-3 text-white on-dark">
          Learning from {readings.toLocaleString('en')} readings. Colours follow the labels for now and will
          sharpen in a moment.
        </p>
      )}
    </div>
  );
}
