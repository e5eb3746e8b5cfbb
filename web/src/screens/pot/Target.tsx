import { Crosshair, ImageUp } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Colour, Mix, MixEntry, Paint, Problem } from '../../api/client';
import { PhotoPick } from '../../common/PhotoPick';
import { ColourField } from '../../parts/ColourField';
import { when } from '../../parts/numbers';
import { PaintPicker } from '../../parts/PaintPicker';
import { Panel } from '../../parts/Panel';
import { useAction } from '../../parts/useAction';
import { useReadings } from '../../state/readings';
import type { Change } from '../../state/useDraft';
import { dryInDaylight } from '../../state/workspace';

interface Props {
  entry: MixEntry;
  shelf: Paint[];
  mixes: Mix[];
  onChange: (entry: Change<MixEntry>) => void;
  problem: Problem | undefined;
  /** True where it is opened at once. */
  aiming: boolean;
}

/** The colour aimed at: typed, taken from a paint of the shelf, or picked in a photo. */
export function Target({ entry, shelf, mixes, onChange, problem, aiming }: Props) {
  const [photo, setPhoto] = useState(false);
  const [open, setOpen] = useState(aiming);
  const { attempt } = useAction();
  // What was typed gives way to what is chosen.
  const [chosen, setChosen] = useState(0);
  const take = (target: Colour | null) => {
    aim(target);
    setChosen((n) => n + 1);
  };
  const aim = (target: Colour | null) => onChange((now) => ({ ...now, target }));
  const paints = shelf.filter((paint) => paint.entry.colour);
  const named = mixes.filter((mix) => mix.entry.name && mix.entry.components.length > 0);
  const readings = useReadings(open).data ?? [];
  const asMix = async (id: string) => {
    const lab = await attempt('Clear target set', () => dryInDaylight(id));
    if (lab) take({ lab });
  };
  return (
    <>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="press press-plain shrink-0">
          <Crosshair size={18} aria-hidden /> {entry.target ? 'Target' : 'Set a target'}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={6}
            aria-label="Target"
            className="z-40 grid w-80 gap-3 rounded-md bg-ground p-4 shadow-2xl"
          >
            <ColourField
              key={chosen}
              label="Target"
              colour={entry.target}
              onChange={aim}
              problem={problem}
              pointer="/target"
            />
            <PaintPicker
              label="A paint to match"
              placeholder="Match a paint"
              choices={paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch }))}
              value=""
              onChange={(id) => take(paints.find((paint) => paint.id === id)?.entry.colour ?? null)}
            />
            {named.length > 0 && (
              <PaintPicker
                label="A mix to match"
                placeholder="Match another mix"
                choices={named.map(({ id, entry, prediction }) => ({
                  id,
                  name: entry.name ?? '',
                  swatch: prediction.swatch,
                }))}
                value=""
                onChange={(id) => void asMix(id)}
              />
            )}
            {readings.length > 0 && (
              <PaintPicker
                label="A reading to match"
                placeholder="Match a reading"
                choices={readings.map((reading) => ({
                  id: reading.id,
                  name: `${when(reading.made_at)}: ${reading.title}`,
                }))}
                value=""
                onChange={(id) => {
                  const hex = readings.find((reading) => reading.id === id)?.hex.at(-1);
                  if (hex) take({ hex });
                }}
              />
            )}
            <button
              type="button"
              className="press press-plain justify-start"
              onClick={() => {
                setOpen(false);
                setPhoto(true);
              }}
            >
              <ImageUp size={18} aria-hidden /> Pick it in a photo
            </button>
            <div className="flex justify-between">
              <Popover.Close asChild>
                <button
                  type="button"
                  className="press press-plain"
                  disabled={!entry.target}
                  onClick={() => take(null)}
                >
                  Clear target
                </button>
              </Popover.Close>
              <Popover.Close className="press press-ink">Done</Popover.Close>
            </div>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <Panel
        open={photo}
        onClose={() => setPhoto(false)}
        title="Pick the target in a photo"
        className="w-[min(46rem,94vw)]"
      >
        <PhotoPick
          name="target"
          wanted={['the colour']}
          take="Set as target"
          onPicked={([lab]) => {
            setPhoto(false);
            if (lab) take({ lab });
            return lab !== undefined;
          }}
        />
      </Panel>
    </>
  );
}
