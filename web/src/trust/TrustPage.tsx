/** How a tablet comes to trust this shop's https, once: the certificate, what to compare, and whether it worked. */
import { useQuery } from '@tanstack/react-query';
import { CircleCheck, Download, LockKeyhole } from 'lucide-react';
import type { TrustAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { isSecure } from '../ui/Secure.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Title } from '../ui/Title.tsx';
import { card } from '../ui/card.ts';
import { buttonClass } from '../ui/Button.tsx';

const GAINS = 'Camera for tags and labels, a screen that stays lit, a call while another page is in front.';

/** Asks the same shop on https; a browser that does not trust it gives nothing but a failure. */
async function isTrusted(url: string): Promise<boolean> {
  try {
    await fetch(`${url}/api/trust`, { mode: 'no-cors', cache: 'no-store' });
    return true;
  } catch {
    return false;
  }
}

/** Eight pairs to a line, as one compares them. */
function Fingerprint({ text }: { text: string }) {
  const pairs = text.split(':');
  const lines = Array.from({ length: Math.ceil(pairs.length / 8) }, (_, line) =>
    pairs.slice(line * 8, line * 8 + 8).join(' '),
  );
  return (
    <p
      translate="no"
      aria-label={`Fingerprint ${text}`}
      className="reading mt-2 rounded-lg bg-paper p-3 max-sm:text-sm"
    >
      {lines.map((line) => (
        <span key={line} className="block">
          {line}
        </span>
      ))}
    </p>
  );
}

function Check({ url }: { url: string }) {
  const {
    data: trusted,
    refetch,
    isFetching,
  } = useQuery({
    queryKey: ['trusted', url],
    queryFn: () => isTrusted(url),
    // Somebody is in the tablet's settings meanwhile, and comes back.
    refetchOnWindowFocus: true,
  });
  return (
    <div className="mt-2">
      <p role="status" className={trusted ? 'font-medium text-verdigris' : 'text-soft'}>
        {trusted === undefined
          ? 'Asking …'
          : trusted
            ? 'This tablet trusts the shop.'
            : 'This tablet does not trust the shop yet.'}
      </p>
      <div className="mt-3 flex flex-wrap gap-3">
        <a
          href={url}
          className={`flex min-h-14 items-center gap-2 rounded-lg px-5 text-lg font-medium ${trusted ? 'bg-verdigris-deep text-white hover:brightness-110' : 'border-2 border-cork bg-card'}`}
        >
          <LockKeyhole aria-hidden className="size-5" /> Open the shop on https
        </a>
        {!trusted && (
          <Button className="min-h-14" disabled={isFetching} onClick={() => void refetch()}>
            Look again
          </Button>
        )}
      </div>
    </div>
  );
}

const STEP = card();

export function TrustPage() {
  const {
    data: trust,
    error,
    refetch,
  } = useQuery({
    queryKey: ['trust'],
    queryFn: () => ask<TrustAnswer>('/api/trust'),
  });
  if (!trust) return <Waiting on={[{ data: trust, error, refetch }]} />;
  const { port, fingerprint } = trust;
  const url = `https://${window.location.hostname}:${port ?? ''}`;
  return (
    <div className="mx-auto max-w-3xl p-5">
      <Title>Trust this shop’s https</Title>
      <p className="mt-1 text-soft">{GAINS}</p>
      {isSecure() && (
        <p className="mt-4 flex items-center gap-2 font-medium text-verdigris">
          <CircleCheck aria-hidden className="size-6 shrink-0" /> This page is secure already: nothing is kept
          back here.
        </p>
      )}
      {port === null ? (
        <div className="mt-4">
          <Notice tone="caution">
            This shop answers on plain http alone. Start it with{' '}
            <span className="reading">npm start -- --lan</span>, and it answers on https beside it.
          </Notice>
        </div>
      ) : (
        <ol className="mt-4 space-y-3">
          {fingerprint !== null && (
            <>
              <li className={STEP}>
                <h2 className="text-lg font-bold">1. Take the shop’s certificate in</h2>
                <p className="mt-1">
                  It can sign for this shop’s network and for nothing else. Take it in on this tablet as a
                  certificate authority: open the file, or Settings, Security, Certificates, Install, “CA
                  certificate”. Some tablets call it a profile, and want it switched on once more where they
                  list trusted certificates.
                </p>
                <a
                  href="/api/trust/authority.crt"
                  download
                  className={buttonClass({ className: 'mt-3 min-h-14' })}
                >
                  <Download aria-hidden className="size-5" /> The shop’s certificate
                </a>
              </li>
              <li className={STEP}>
                <h2 className="text-lg font-bold">2. Compare the fingerprint</h2>
                <p className="mt-1">
                  The tablet shows one as it takes it in (SHA-256). It must be the one on the screen the shop
                  was started on; another means that somebody stands between: do not take it.
                </p>
                <Fingerprint text={fingerprint} />
              </li>
            </>
          )}
          <li className={STEP}>
            <h2 className="text-lg font-bold">{fingerprint === null ? 'Go over' : '3. Go over'}</h2>
            <Check url={url} />
          </li>
        </ol>
      )}
    </div>
  );
}
