import { FileBadge, FileKey } from 'lucide-react';
import { useState } from 'react';
import type { Network as Shown } from '../../api/client';
import { FileChoice } from '../../parts/FileChoice';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction, why } from '../../parts/useAction';
import type { useNetwork } from '../../state/network';

interface Props {
  data: Shown;
  calls: ReturnType<typeof useNetwork>;
}

/** The certificate, for those who know what it is. */
export function Certificate({ data, calls }: Props) {
  const { attempt, busy } = useAction();
  const [certificate, setCertificate] = useState<File>();
  const [key, setKey] = useState<File>();
  const { choose, forget } = calls;
  const use = async (certificate: File, key: File) => {
    const texts = await Promise.all([certificate.text(), key.text()]);
    await attempt(
      'Couldn’t use the certificate',
      () => choose.mutateAsync({ certificate: texts[0], key: texts[1] }),
      () => undefined,
    );
  };
  return (
    <details className="pt-4">
      <summary className="min-h-11 content-center font-semibold">Certificate</summary>
      <div className="grid gap-2 pt-1">
        <p className="max-w-prose">
          {data.has_own_certificate
            ? 'Your own certificate is in use.'
            : 'The workshop made its own certificate. It is good for machines of a local network only.'}{' '}
          Its SHA-256 fingerprint:
        </p>
        <code className="text-sm break-all select-all">{data.fingerprint}</code>
        <p className="max-w-prose text-soft">
          If you have a certificate for this machine’s name, bring it and its key as PEM files.
        </p>
        <div className="flex flex-wrap gap-2">
          <FileChoice
            name={certificate ? certificate.name : 'Choose the certificate'}
            icon={FileBadge}
            onChosen={setCertificate}
          />
          <FileChoice name={key ? key.name : 'Choose its key'} icon={FileKey} onChosen={setKey} />
          {certificate && key && (
            <button
              type="button"
              className="press press-plain"
              disabled={busy}
              onClick={() => void use(certificate, key)}
            >
              Use it
            </button>
          )}
          {data.has_own_certificate && (
            <button
              type="button"
              className="press press-plain"
              disabled={busy}
              onClick={() => void attempt('Couldn’t change the certificate', forget)}
            >
              Use the workshop’s
            </button>
          )}
        </div>
        {choose.error && <TroubleLine>{why(choose.error)}</TroubleLine>}
      </div>
    </details>
  );
}
