/** Errors as RFC 9457 problem details: one plain sentence for the technician, a status for the machine. */
import type { ErrorRequestHandler, RequestHandler } from 'express';
import { codeOfSqlite } from './store/shopFile.ts';
import { InstrumentError } from '@cork-ember/core/observation/instrument.ts';
import { RunSheetError, type RunSheetProblem } from '@cork-ember/core/runsheet/entries/errors.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { Problem } from '@cork-ember/core/contract/answers.ts';
import type { Logger } from 'pino';

export type ProblemKind =
  | 'bad-input'
  | 'wrong-name'
  | 'not-signed-in'
  | 'not-allowed'
  | 'slow-down'
  | 'not-found'
  | 'stale'
  | 'taken'
  | 'refused'
  | 'quarantined'
  | 'too-large'
  | 'broken';

const KINDS: Record<ProblemKind, { status: number; title: string }> = {
  'bad-input': { status: 400, title: 'The entry cannot be read' },
  'wrong-name': { status: 421, title: 'Not this shop’s name' },
  'not-signed-in': { status: 401, title: 'Nobody is at the bench' },
  'not-allowed': { status: 403, title: 'Not for everybody' },
  'slow-down': { status: 429, title: 'Too many at once' },
  'not-found': { status: 404, title: 'Not here' },
  stale: { status: 409, title: 'Somebody was faster' },
  taken: { status: 409, title: 'Already in use' },
  'too-large': { status: 413, title: 'Too large' },
  refused: { status: 422, title: 'The run sheet does not take it' },
  quarantined: { status: 422, title: 'A record that cannot be read' },
  broken: { status: 500, title: 'The server failed' },
};

/** A failure the client can act on. */
export class ProblemError extends Error {
  readonly kind: ProblemKind;
  readonly changed: readonly JobEvent[] | undefined;

  constructor(kind: ProblemKind, detail: string, changed?: readonly JobEvent[]) {
    super(detail);
    this.name = 'ProblemError';
    this.kind = kind;
    this.changed = changed;
  }
}

function problemOf(kind: ProblemKind, detail: string, reason: string = kind): Problem {
  const { status, title } = KINDS[kind];
  return { type: `/problems/${reason}`, title, status, detail };
}

/** Errors of the body parser carry a `type`. */
function parserProblem(error: unknown): Problem | undefined {
  if (!(error instanceof Error) || !('type' in error)) return undefined;
  const { type } = error;
  if (type === 'entity.too.large') {
    const most = 'limit' in error ? Math.round(Number(error.limit) / 1_048_576) : 1;
    return problemOf('too-large', `The request is larger than the ${most} MB allowed; nothing was recorded.`);
  }
  if (type === 'entity.parse.failed')
    return problemOf('bad-input', 'The request is not valid JSON; nothing was recorded.');
  if (type === 'charset.unsupported' || type === 'encoding.unsupported')
    return problemOf('bad-input', 'The request must be JSON in UTF-8.');
  return undefined;
}

/** What Node and its packages throw at what was sent: an address or a packing nobody can undo, a body that ended early. */
function senderProblem(error: unknown): Problem | undefined {
  if (error instanceof URIError)
    return problemOf('bad-input', 'The address cannot be read: its % signs are not in order.');
  if (!(error instanceof Error)) return undefined;
  const code = 'code' in error ? String(error.code) : '';
  if (code.startsWith('Z_') || code.startsWith('ERR__ERROR_FORMAT') || code === 'ERR_PADDING_2')
    return problemOf('bad-input', 'What was sent cannot be unpacked; nothing was recorded.');
  const status = 'status' in error ? Number(error.status) : 0;
  return status >= 400 && status < 500
    ? problemOf('bad-input', 'What was sent cannot be read; nothing was recorded.')
    : undefined;
}

function toProblem(error: unknown): Problem | undefined {
  if (error instanceof ProblemError) {
    const problem = problemOf(error.kind, error.message);
    return error.changed ? { ...problem, changed: error.changed } : problem;
  }
  if (error instanceof RunSheetError) {
    const reason: RunSheetProblem = error.problem;
    return problemOf('refused', error.message, reason);
  }
  if (error instanceof InstrumentError) return problemOf('refused', error.message, 'instrument');
  return parserProblem(error) ?? senderProblem(error) ?? diskProblem(error);
}

/** What the disk refuses; what was entered is still with whoever entered it. */
function diskProblem(error: unknown): Problem | undefined {
  const code = codeOfSqlite(error);
  if (code === 'SQLITE_FULL')
    return problemOf(
      'broken',
      'The shop’s disk is full; nothing of this was recorded. Make room, then send it again.',
    );
  if (code === 'SQLITE_READONLY' || code === 'SQLITE_IOERR')
    return problemOf('broken', 'The shop’s file cannot be written; nothing of this was recorded.');
  return undefined;
}

export const unknownRoute: RequestHandler = (request) => {
  throw new ProblemError('not-found', `There is nothing at ${request.path}.`);
};

export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const known = toProblem(error);
    if (!known) log.error({ err: error }, 'unexpected failure');
    const problem = known ?? problemOf('broken', 'The server failed; nothing of this request was recorded.');
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };
}
