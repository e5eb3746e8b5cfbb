import { Download, Move } from 'lucide-react';
import { useState } from 'react';
import type { Form, Piece, PieceOnPhoto } from '../../../api/client';
import { useLook } from '../../../light/light';
import { NotDrawn } from '../../../parts/NotDrawn';
import { Segments } from '../../../parts/Segments';
import { Slide } from '../../../parts/Slide';
import { TroubleLine } from '../../../parts/TroubleLine';
import { useSavedFile } from '../../../parts/useSavedFile';
import { ON_SCREEN, usePictureOnPhoto, useSavedOnPhoto } from '../../../state/onPhoto';
import { Fitting } from './Fitting';

interface Props {
  entry: Piece;
  /** Which of its photos. */
  n: number;
  photo: string;
  known: PieceOnPhoto;
  scheme: number;
  onForm: (form: Form) => void;
  onMark: () => void;
}

const WAYS = [
  { id: 'bar', name: 'Bar' },
  { id: 'beside', name: 'Side by side' },
];

/** The finish on a photo, with the photo as it is behind a bar or beside it. */
export function Shown({ entry, n, photo, known, scheme: chosen, onForm, onMark }: Props) {
  const [scheme, setScheme] = useState(chosen);
  const [way, setWay] = useState('bar');
  const [bar, setBar] = useState(0);
  const [saving, setSaving] = useState(false);
  const ratio = known.height / known.width;
  const width = Math.min(ON_SCREEN, known.width);
  const { drawing, error, retry } = usePictureOnPhoto(entry, { photo: n, scheme, width }, ratio);
  const draw = useSavedOnPhoto();
  const saveAs = useSavedFile();
  const { light } = useLook();
  const shape = { aspectRatio: `${String(known.width)} / ${String(known.height)}` };
  const url = `/api/photos/kept/${photo}`;
  const before = <img src={url} alt="The piece as it is" draggable={false} className="block h-full w-full" />;
  const after = drawing ? (
    <img {...drawing} alt="The piece in its finish" draggable={false} className="block h-full w-full" />
  ) : (
    <div role="status" className="relative h-full w-full">
      {before}
      <span className="absolute bottom-2 left-2 bg-panel px-2 py-1 text-sm">Drawing</span>
    </div>
  );
  const download = async () => {
    setSaving(true);
    await saveAs(`${entry.name}, on a photo, ${light}.png`, () => draw(entry, n, scheme));
    setSaving(false);
  };
  const schemes = entry.schemes ?? [];
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 lg:flex-row">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-1">
        <div className="min-h-0 flex-1 lg:[container-type:size]">
          {way === 'bar' ? (
            <div
              className="relative mx-auto"
              style={{ ...shape, width: `min(100%, 100cqw, calc(100cqh / ${String(ratio)}))` }}
            >
              {after}
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
            </div>
          ) : (
            <div className="grid gap-px sm:grid-cols-2">
              <div style={shape}>{before}</div>
              <div style={shape}>{after}</div>
            </div>
          )}
        </div>
        {way === 'bar' && (
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
        )}
      </div>
      <div className="grid w-full shrink-0 content-start gap-4 lg:w-72">
        <Fitting known={known} onForm={onForm} />
        {known.problem && !known.fitting && <TroubleLine>{known.problem}</TroubleLine>}
        {error && !known.problem && <NotDrawn error={error} retry={retry} />}
        {known.warnings.map((warning) => (
          <p key={warning} className="font-semibold">
            {warning}.
          </p>
        ))}
        {schemes.length > 1 && (
          <Segments
            label="Scheme"
            choices={schemes.map(({ name }, i) => ({ id: String(i), name }))}
            value={String(scheme)}
            onChange={(id) => setScheme(Number(id))}
            className="flex flex-wrap"
          />
        )}
        <Segments label="Before and after" choices={WAYS} value={way} onChange={setWay} />
        <button
          type="button"
          className="press press-ink justify-self-start"
          disabled={saving}
          onClick={() => void download()}
        >
          <Download size={18} aria-hidden /> {saving ? 'Drawing the picture' : 'Save the picture'}
        </button>
        <button type="button" className="press press-plain justify-self-start" onClick={onMark}>
          <Move size={18} aria-hidden /> Move the marks
        </button>
        <p className="text-sm text-soft">
          Shown in the light of the photo. If it was taken under lamps, choose them at the top. Old gloss and
          grain are taken off where the new finish hides them.
        </p>
      </div>
    </div>
  );
}
