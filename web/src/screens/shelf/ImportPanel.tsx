import { FileUp, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { type Class, type ImportPlan, Problem } from '../../api/client';
import { FileChoice } from '../../parts/FileChoice';
import { useTell } from '../../parts/Notice';
import { Panel } from '../../parts/Panel';
import { Picker } from '../../parts/Picker';
import { TroubleLine } from '../../parts/TroubleLine';
import { NO_ANSWER, useAction } from '../../parts/useAction';
import { type How, useImport } from '../../state/files';
import { useClasses } from '../../state/workspace';

const SOURCES = [
  { id: 'stated', name: 'Read as the file says' },
  { id: 'reader', name: 'By colour reader' },
  { id: 'chip', name: 'From chips or codes' },
  { id: 'photo', name: 'From a photo' },
  { id: 'guess', name: 'By eye' },
] as const;

/** A file of colours or spectra: what it would do is shown line by line, and nothing is written until that is accepted. */
export function ImportPanel({ onClose }: { onClose: () => void }) {
  const calls = useImport();
  const classes = useClasses().data ?? [];
  const tell = useTell();
  const { attempt, busy } = useAction();
  const [file, setFile] = useState<File>();
  const [kind, setKind] = useState<Class>('chalk');
  const [percent, setPercent] = useState<boolean>();
  const [source, setSource] = useState<How['source']>('stated');
  const [plan, setPlan] = useState<ImportPlan>();
  const [problem, setProblem] = useState<Problem>();

  const look = async (chosen: File, changed: Partial<How>) => {
    const asked = { kind, percent, source, ...changed };
    setFile(chosen);
    setKind(asked.kind);
    setPercent(asked.percent);
    setSource(asked.source);
    try {
      setPlan(await calls.preview(chosen, asked));
      setProblem(undefined);
    } catch (error) {
      setPlan(undefined);
      if (error instanceof Problem) setProblem(error);
      else tell(`Couldn’t open the file: ${NO_ANSWER}`);
    }
  };
  const accept = async () => {
    if (!file) return;
    const done = await attempt('Couldn’t import the file', () =>
      calls.carryOut(file, { kind, percent, source }),
    );
    if (!done) return;
    tell(`Imported: ${done.summary}. Undo removes it all.`);
    onClose();
  };

  const bad = plan?.rows.filter((row) => row.action === 'bad').length ?? 0;
  const wanted = plan?.rows.filter((row) => row.action === 'new' || row.action === 'reading').length ?? 0;

  return (
    <Panel open onClose={onClose} title="Import a file" className="w-[min(46rem,94vw)]">
      <div className="grid gap-4">
        <p className="text-soft">
          Spectra or colours as CGATS.17, CxF/X or CSV, a .gpl palette, or a shelf exported as JSON. A name
          already on the shelf gets a new reading; any other becomes a new paint.
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <FileChoice
            name={file ? file.name : 'Choose a file'}
            icon={FileUp}
            first={!plan}
            onChosen={(chosen) => void look(chosen, { percent: undefined })}
          />
          <Picker
            label="Type of new paints"
            choices={classes.filter((choice) => !choice.medium)}
            value={kind}
            onChange={(next) => (file ? void look(file, { kind: next }) : setKind(next))}
          />
          <Picker
            label="How it was measured"
            choices={SOURCES}
            value={source}
            onChange={(id) => {
              const next = SOURCES.find((choice) => choice.id === id)?.id ?? 'stated';
              if (file) void look(file, { source: next });
              else setSource(next);
            }}
          />
        </div>
        {problem?.is('percent') && file && (
          <div role="alert" className="flex flex-wrap items-center gap-3">
            <p className="font-semibold first-letter:uppercase">{problem.message}.</p>
            <button type="button" className="press press-plain" onClick={() => look(file, { percent: true })}>
              Yes, they are percentages
            </button>
          </div>
        )}
        {problem?.is('source') && file && (
          <div role="alert" className="grid gap-2">
            <p className="font-semibold">What were these colours taken with? The file does not say.</p>
            <div className="flex flex-wrap gap-2">
              {SOURCES.filter(({ id }) => id !== 'stated').map(({ id, name }) => (
                <button
                  key={id}
                  type="button"
                  className="press press-plain"
                  onClick={() => look(file, { source: id })}
                >
                  {name}
                </button>
              ))}
            </div>
          </div>
        )}
        {problem && !problem.is('percent') && !problem.is('source') && (
          <TroubleLine>{problem.message}</TroubleLine>
        )}
        {plan && (
          <>
            <p className="font-semibold">
              {plan.format}: {plan.summary}
            </p>
            <ul aria-label="Preview of the import" className="max-h-[40vh] overflow-auto">
              {plan.rows.map((row) => (
                <li key={row.line} className="grid grid-cols-[4rem_minmax(0,1fr)_auto] items-center gap-3">
                  {row.action === 'bad' ? (
                    <TriangleAlert size={20} aria-hidden className="m-3 justify-self-center" />
                  ) : (
                    <span aria-hidden className="h-11" style={{ background: row.hex }} />
                  )}
                  <span className={`min-w-0 leading-tight ${row.action === 'skip' ? 'text-soft' : ''}`}>
                    <bdi className="block truncate font-semibold">{row.name}</bdi>
                    <span
                      className={`block text-sm ${row.words.startsWith('“') ? '' : 'first-letter:uppercase'}`}
                    >
                      {row.words}
                      {row.notes.length > 0 && ` (${row.notes.join('; ')})`}
                    </span>
                  </span>
                  <span className="pr-2 text-sm text-soft">line {row.line}</span>
                </li>
              ))}
            </ul>
            <div className="flex justify-end gap-2">
              <button type="button" className="press press-plain" onClick={onClose}>
                Cancel
              </button>
              <button
                type="button"
                className="press press-ink"
                disabled={busy || wanted === 0}
                onClick={accept}
              >
                {bad === 0 ? 'Import it' : `Import the other ${wanted === 1 ? 'one' : wanted}`}
              </button>
            </div>
          </>
        )}
      </div>
    </Panel>
  );
}
