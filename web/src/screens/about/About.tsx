import { useQuery } from '@tanstack/react-query';
import { api, got } from '../../api/client';
import { Failed, Waiting } from '../../parts/Waiting';

interface Licence {
  id: string;
  text: string;
  of: string[];
}

/** How many names stand beside a licence before it is opened. */
const SHOWN = 6;

const few = (of: string[]) =>
  of.length > SHOWN ? `${of.slice(0, SHOWN).join(', ')} and ${of.length - SHOWN} more` : of.join(', ');

/** What the program is, and the licences of all that it is made of. */
export function About() {
  const health = useQuery({ queryKey: ['health'], queryFn: () => got(api.GET('/api/health')) });
  const licences = useQuery({
    queryKey: ['licences'],
    queryFn: async ({ signal }): Promise<Licence[]> => {
      const answer = await fetch('/licences.json', { signal });
      if (!answer.ok)
        throw new Error('The licences are not in this build: gather them with `make licences`.');
      return answer.json();
    },
    staleTime: 'static',
  });
  return (
    <div className="grid max-w-4xl gap-3 px-4 pt-2 pb-8 md:px-5">
      <h1 className="text-3xl">About</h1>
      <p className="max-w-prose">
        Warm Blend {health.data?.version}. It works without a network, and what you write in it stays in one
        file on this machine.
      </p>
      <h2 className="pt-2 text-xl">What it is made of</h2>
      <p className="max-w-prose text-soft">
        Fonts, libraries and their authors’ terms, each text once. Warm Blend itself may be used under the MIT
        licence or the Apache licence 2.0, as you choose.
      </p>
      {licences.isPending && <Waiting />}
      {licences.isError && <Failed error={licences.error} retry={() => void licences.refetch()} />}
      <ul>
        {licences.data?.map(({ id, text, of }) => (
          <li key={text} className="border-t border-line">
            <details>
              <summary className="min-h-11 cursor-pointer py-2 break-words">
                <span className="font-semibold">{id}</span> <span className="text-soft">{few(of)}</span>
              </summary>
              {of.length > SHOWN && <p className="pb-3 text-soft">{of.join(', ')}</p>}
              <pre className="overflow-x-auto bg-paper p-4 text-sm whitespace-pre-wrap">{text}</pre>
            </details>
          </li>
        ))}
      </ul>
    </div>
  );
}
