import { useQuery } from '@tanstack/react-query';
import { ArrowLeft, Printer } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { api, got, type StencilTemplate } from '../../api/client';
import { useUnits } from '../../light/light';
import { Failed, Waiting } from '../../parts/Waiting';
import { usePiece } from '../../state/workspace';

/** How far paper goes beyond what a sheet shows, and how long the arms of a mark are, mm. */
const BEYOND = 8;
const ARM = 5;

function useTemplate(id: string | undefined, zone: string) {
  const units = useUnits();
  return useQuery({
    queryKey: ['template', id, zone, units],
    queryFn: () =>
      got(
        api.GET('/api/pieces/{id}/template', {
          params: { path: { id: id as string }, query: { zone, units } },
        }),
      ),
    enabled: id !== undefined,
  });
}

/** The template of a stencil at its true size, over as many sheets as it needs, with marks to lay them together by. */
export function Template() {
  const [search] = useSearchParams();
  const piece = usePiece().data;
  const template = useTemplate(piece?.id, search.get('zone') ?? '');
  if (template.isError) return <Failed error={template.error} retry={() => template.refetch()} />;
  if (!template.data) return <Waiting rows={6} />;
  const { data } = template;
  const sheets = data.sheets.length * data.cuts.length;
  const names = data.cuts.map(({ name }) => name.toLowerCase()).join(' and ');
  return (
    <div className="template-sheets grid gap-5 px-4 pt-2 pb-8 md:px-5 print:block print:p-0">
      <div className="grid gap-3 print:hidden">
        <Link to="/piece" className="press press-bare -ml-2 w-fit text-sm">
          <ArrowLeft size={18} aria-hidden /> The piece
        </Link>
        <div className="flex flex-wrap items-center gap-3">
          <h1 className="mr-auto text-3xl">Template: {names}</h1>
          <button type="button" className="press press-ink" onClick={() => window.print()}>
            <Printer size={18} aria-hidden /> Print {sheets === 1 ? 'one sheet' : `${sheets} sheets`}
          </button>
        </div>
        <p className="max-w-prose">
          {data.part} of {data.piece}, {data.size}. {data.spread}. Print at 100 %, and measure the check line
          before you {data.by_hand ? 'trace it' : 'cut'}
          {data.sheets.length > 1 && '; lay the sheets together by their crosses'}.
        </p>
        {data.marks.length > 0 && (
          <ul aria-label="Centre lines, measured from one end" className="text-sm">
            {data.marks.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
      </div>
      {data.cuts.map((cut) =>
        data.sheets.map((sheet) => (
          <Page key={`${cut.name} ${sheet.name}`} template={data} cut={cut} sheet={sheet} />
        )),
      )}
    </div>
  );
}

interface Sheet {
  template: StencilTemplate;
  cut: StencilTemplate['cuts'][number];
  sheet: StencilTemplate['sheets'][number];
}

function Page({ template, cut, sheet }: Sheet) {
  const { x, y, w, h } = sheet;
  const corners = [
    [x, y],
    [x + w, y],
    [x, y + h],
    [x + w, y + h],
  ];
  return (
    <article
      aria-label={`${cut.name}, sheet ${sheet.name}`}
      className="template-sheet w-fit bg-white p-[4mm] text-black print:p-0"
    >
      <svg
        role="img"
        aria-label={`${cut.name} at true size`}
        width={`${w + 2 * BEYOND}mm`}
        height={`${h + 2 * BEYOND}mm`}
        viewBox={`${x - BEYOND} ${y - BEYOND} ${w + 2 * BEYOND} ${h + 2 * BEYOND}`}
        fill="none"
        stroke="black"
        strokeWidth={0.25}
      >
        <path
          d={cut.outline}
          strokeLinecap="round"
          strokeWidth={0.25 * cut.scale}
          transform={`scale(${1 / cut.scale})`}
        />
        {corners.map(([cx = 0, cy = 0]) => (
          <path
            key={`${cx} ${cy}`}
            d={`M${cx - ARM} ${cy}h${2 * ARM}M${cx} ${cy - ARM}v${2 * ARM}`}
            strokeWidth={0.4}
          />
        ))}
      </svg>
      <svg
        role="img"
        aria-label="Check line, 100 mm"
        width="100mm"
        height="5mm"
        viewBox="0 0 100 5"
        stroke="black"
        strokeWidth={0.3}
      >
        <path d="M0 0v5M100 0v5M0 2.5h100" />
      </svg>
      <p className="text-sm">
        This line is 100 mm. Sheet {sheet.name}: {cut.name.toLowerCase()}, {template.size},{' '}
        {template.part.toLowerCase()}.
      </p>
    </article>
  );
}
