/** Stands where a view could not be shown: the band, the alarms and everything entered go on around it. */
import type { FallbackProps } from 'react-error-boundary';
import { useLocation, useNavigate } from 'react-router';
import { Button } from './Button.tsx';
import { Title } from './Title.tsx';

export function ViewFailed({ error, resetErrorBoundary }: FallbackProps) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const said = error instanceof Error ? error.message : String(error);
  return (
    <div className="max-w-2xl space-y-4 p-6" role="alert">
      <Title>This view could not be shown</Title>
      <p>
        The rest goes on: the clock, the alarms, and what was entered. Where it happens again, this is what to
        pass on:
      </p>
      <pre className="reading overflow-auto rounded-lg border border-line bg-panel p-3 text-sm whitespace-pre-wrap">
        {pathname}: {said}
      </pre>
      <div className="flex flex-wrap gap-3">
        <Button tone="go" className="min-h-14" onClick={resetErrorBoundary}>
          Try again
        </Button>
        <Button className="min-h-14" onClick={() => void navigate('/')}>
          To the bench
        </Button>
      </div>
    </div>
  );
}
