import { Columns2 } from 'lucide-react';
import { useState } from 'react';
import { Closely } from '../../parts/Closely';
import { FullScreen } from '../../parts/FullScreen';
import { Picker } from '../../parts/Picker';
import { clockOf } from '../../parts/times';
import { usePhotosOf } from '../../state/log';

const clock = clockOf(undefined);

/** Two photos of a piece beside each other: the first and the last, until others are chosen. */
export function BeforeAfter({ piece }: { piece: string }) {
  const photos = usePhotosOf(piece);
  const [chosen, choose] = useState<{ before?: string; after?: string }>({});
  const last = photos.at(-1);
  const [first] = photos;
  if (!first || !last || photos.length < 2) return null;
  const choices = photos.map(({ photo, at, words }) => ({ id: photo, name: `${clock.day(at)}: ${words}` }));
  const sides = [
    { side: 'before', name: 'Before', photo: chosen.before ?? first.photo },
    { side: 'after', name: 'After', photo: chosen.after ?? last.photo },
  ] as const;
  return (
    <FullScreen
      title="Before and after"
      trigger={
        <button type="button" className="press press-plain justify-self-start">
          <Columns2 size={18} aria-hidden /> Before and after
        </button>
      }
    >
      <div className="grid min-h-0 flex-1 grid-cols-2 gap-px max-sm:grid-cols-1 max-sm:grid-rows-2">
        {sides.map(({ side, name, photo }) => (
          <div key={side} className="flex min-h-0 min-w-0 flex-col">
            <Closely
              beside={
                <Picker
                  label={name}
                  choices={choices}
                  value={photo}
                  onChange={(id) => choose({ ...chosen, [side]: id })}
                />
              }
            >
              <img
                src={`/api/photos/kept/${photo}`}
                alt={`${name}: ${choices.find(({ id }) => id === photo)?.name ?? ''}`}
                draggable={false}
                className="min-h-0 min-w-0 flex-1 object-contain"
              />
            </Closely>
          </div>
        ))}
      </div>
    </FullScreen>
  );
}
