import { Download } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import type { Piece, PieceOnPhoto } from '../../../api/client';
import { useInLights, useLook } from '../../../light/light';
import { Closely } from '../../../parts/Closely';
import { FullScreen } from '../../../parts/FullScreen';
import { Picker } from '../../../parts/Picker';
import { Segments } from '../../../parts/Segments';
import { Slide } from '../../../parts/Slide';
import { TroubleLine } from '../../../parts/TroubleLine';
import { useSavedFile } from '../../../parts/useSavedFile';
import { KEPT, useSavedOnPhoto } from '../../../state/onPhoto';
import { useStanding } from '../../../state/piece';
import type { Draft } from '../../../state/useDraft';
import { useChosenZone } from '../chosenZone';
import { Dress } from '../Dress';
import { chosenOf, clashOf, paintedOf, schemesOf } from '../entry';
import { Over } from '../Over';
import { Unify } from '../Unify';
import { Fitting } from './Fitting';
import { Parts } from './Parts';
import { PhotoPicture } from './PhotoPicture';

interface Props {
  piece: string;
  draft: Draft<Piece>;
  /** Which of its photos. */
  n: number;
  known: PieceOnPhoto;
}

const WAYS = [
  { id: 'bar', name: 'Bar' },
  { id: 'beside', name: 'Side by side' },
];

/** The finish on a photo, with the photo as it is behind a bar or beside it; each part is dressed here too. */
export function Shown({ piece, draft, n, known }: Props) {
  const { entry } = draft;
  const scheme = chosenOf(entry);
  const standing = useStanding(entry, scheme).last;
  useInLights(standing?.lights);
  const { zone, id, choose } = useChosenZone(piece, standing);
  const [way, setWay] = useState('bar');
  const [unifying, setUnifying] = useState(false);
  const schemes = schemesOf(entry);
  const ratio = known.height / known.width;
  const picture = (one: Piece) => <PhotoPicture entry={one} n={n} scheme={scheme} size={known} />;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-4 lg:flex-row">
      {unifying ? (
        <div className="min-h-0 min-w-0 flex-1 lg:overflow-auto">
          <Unify
            entry={entry}
            scheme={scheme}
            picture={picture}
            onChange={draft.change}
            onClose={() => setUnifying(false)}
          />
        </div>
      ) : (
        <BeforeAndAfter
          photo={entry.photos?.[n]?.photo ?? ''}
          known={known}
          isBar={way === 'bar'}
          after={known.problem ? undefined : picture(entry)}
        >
          <Parts
            ratio={ratio}
            parts={known.parts}
            isChosen={(part) => part.zone === id}
            // A touch on what is chosen, or beside the piece, leaves the picture clean.
            onChoose={(part) => choose(part?.zone === id ? undefined : part?.zone)}
          />
        </BeforeAndAfter>
      )}
      <div className="grid w-full shrink-0 content-start gap-3 grid-cols-[minmax(0,1fr)] lg:w-76 lg:overflow-auto">
        <Fitting known={known} onForm={(form) => draft.change({ ...draft.entry, form })} />
        {known.problem && !known.fitting && <TroubleLine>{known.problem}</TroubleLine>}
        {known.warnings.map((warning) => (
          <p key={warning} className="font-semibold">
            {warning}.
          </p>
        ))}
        {/* Not beside another main action. */}
        {!unifying && (
          <div className="flex items-center justify-between">
            <SavePicture entry={entry} n={n} scheme={scheme} />
            <FullScreen title={entry.name}>
              <Closely>
                <div
                  className="m-auto"
                  style={{ width: `min(100%, calc((100dvh - 8rem) / ${String(ratio)}))` }}
                >
                  <PhotoPicture entry={entry} n={n} scheme={scheme} size={known} drawn={KEPT} />
                </div>
              </Closely>
            </FullScreen>
          </div>
        )}
        {schemes.length > 1 && (
          <Segments
            label="Scheme"
            choices={schemes.map(({ name }, i) => ({ id: String(i), name }))}
            value={String(scheme)}
            onChange={(id) => draft.change({ ...entry, chosen: Number(id) })}
            className="flex flex-wrap"
          />
        )}
        {!unifying && <Segments label="Before and after" choices={WAYS} value={way} onChange={setWay} />}
        {zone && (
          <Dress
            draft={draft}
            zone={zone}
            zones={standing?.zones ?? []}
            heading={
              <Picker
                label="Part"
                choices={paintedOf(standing?.zones).map((one) => ({ id: one.zone, name: one.name }))}
                value={zone.zone}
                onChange={choose}
                className="font-semibold"
              />
            }
          />
        )}
        {(clashOf(standing) || unifying) && (
          <div className="grid gap-2 border-t border-line pt-3">
            <p role="status">{standing?.verdict.headline}</p>
            <button
              type="button"
              className="press press-plain justify-self-start"
              aria-pressed={unifying}
              onClick={() => setUnifying(!unifying)}
            >
              Unify
            </button>
          </div>
        )}
        <Over entry={entry} zones={standing?.zones ?? []} onChange={draft.change} />
        <p className="text-sm text-soft">
          Shown in the light of the photo. If it was taken under lamps, choose them at the top.
        </p>
      </div>
    </div>
  );
}

/** Saves the finish on the photo as a large picture. */
function SavePicture({ entry, n, scheme }: { entry: Piece; n: number; scheme: number }) {
  const [saving, setSaving] = useState(false);
  const draw = useSavedOnPhoto();
  const saveAs = useSavedFile();
  const { light } = useLook();
  const download = async () => {
    setSaving(true);
    await saveAs(`${entry.name}, on a photo, ${light}.png`, () => draw(entry, n, scheme));
    setSaving(false);
  };
  return (
    <button
      type="button"
      className="press press-ink justify-self-start"
      disabled={saving}
      onClick={() => void download()}
    >
      <Download size={18} aria-hidden /> {saving ? 'Drawing the picture' : 'Save the picture'}
    </button>
  );
}

interface BothProps {
  photo: string;
  known: PieceOnPhoto;
  isBar: boolean;
  /** The piece in its finish; none where it cannot be drawn. */
  after: ReactNode;
  /** What lies over the picture. */
  children: ReactNode;
}

/** The piece as it is and as it will be. */
function BeforeAndAfter({ photo, known, isBar, after, children }: BothProps) {
  const [bar, setBar] = useState(0);
  const ratio = known.height / known.width;
  const before = (
    <img
      src={`/api/photos/kept/${photo}`}
      alt="The piece as it is"
      draggable={false}
      className="block h-full w-full"
    />
  );
  if (!isBar)
    return (
      <div className="grid min-w-0 flex-1 content-start gap-px sm:grid-cols-2">
        <div>{before}</div>
        <div className="relative">
          {after}
          {children}
        </div>
      </div>
    );
  // The bar stands right below the picture, however much room there is.
  const width = `min(100%, 100cqw, calc((100cqh - 3rem) / ${String(ratio)}))`;
  return (
    <div className="min-h-0 min-w-0 flex-1 lg:[container-type:size]">
      <div className="mx-auto grid gap-1" style={{ width }}>
        <div className="relative" style={{ aspectRatio: `${String(known.width)} / ${String(known.height)}` }}>
          {after ?? before}
          <div className="absolute inset-0" style={{ clipPath: `inset(0 ${String(100 - bar)}% 0 0)` }}>
            {before}
          </div>
          {bar > 0 && (
            <span
              aria-hidden
              className="absolute inset-y-0 w-0.5 bg-white shadow-[0_0_0_1px_var(--color-ink)]"
              style={{ left: `${String(bar)}%` }}
            />
          )}
          {children}
        </div>
        <div className="flex items-center gap-2 text-sm">
          <span>After</span>
          <Slide
            label="Show the piece as it is"
            shown={`${String(Math.round(bar))} % of the width`}
            value={bar}
            from={0}
            to={100}
            step={1}
            onShow={setBar}
            className="flex-1"
          />
          <span>Before</span>
        </div>
      </div>
    </div>
  );
}
