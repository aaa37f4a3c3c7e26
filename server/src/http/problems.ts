import type { ErrorRequestHandler, RequestHandler } from 'express';
import { DatabaseAway, stateOf } from '../db/database.ts';

export interface FieldProblem {
  field: string;
  says: string;
}

/** A fault of the request, sent as a problem document (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly title: string;
  readonly fields: FieldProblem[];
  readonly extra: Record<string, unknown>;

  constructor(
    status: number,
    title: string,
    detail: string,
    fields: FieldProblem[] = [],
    extra: Record<string, unknown> = {},
  ) {
    super(detail);
    this.status = status;
    this.title = title;
    this.fields = fields;
    this.extra = extra;
  }
}

export const notFound = (what: string): Problem =>
  new Problem(
    404,
    'Not found',
    `There is no ${what} here. It may have been removed; go back and choose again.`,
  );

export const noSuchPage: RequestHandler = (req) => {
  throw new Problem(404, 'Not found', `There is nothing at ${req.method} ${req.path.slice(0, 120)}.`);
};

interface BodyError {
  type?: string;
  status?: number;
}

/** What a database refuses because of others at the same moment, by its SQLSTATE: nothing is broken, and nothing was saved. */
const meanwhile: Record<string, [status: number, title: string, detail: string]> = {
  '23505': [
    409,
    'Made meanwhile',
    'The same was made elsewhere at the same moment. Nothing was saved here; look again, then try again.',
  ],
  '23503': [
    409,
    'Changed meanwhile',
    'What this belongs to was changed elsewhere at the same moment. Nothing was saved; reload the page.',
  ],
  '40001': [503, 'Very busy', 'Too many change the same at this moment. Nothing was saved; try again.'],
  '40P01': [503, 'Very busy', 'Too many change the same at this moment. Nothing was saved; try again.'],
  '57014': [503, 'Took too long', 'The database took too long. Nothing was saved; try again in a moment.'],
};

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  // Whether the last write was stored is not known: whoever sends it again with its key gets the same answer.
  if (error instanceof DatabaseAway)
    return new Problem(
      503,
      'No database',
      'The database does not answer at the moment. What you typed stays on this page; try again in a moment.',
      [],
      { retry: true },
    );
  const [status_, title, detail] = meanwhile[stateOf(error)] ?? [];
  if (status_ !== undefined)
    return new Problem(status_, title!, detail!, [], status_ === 503 ? { retry: true } : {});
  const { type, status } = error as BodyError;
  if (type === 'entity.parse.failed') {
    return new Problem(400, 'Malformed JSON', 'The request is not valid JSON. Nothing was saved.');
  }
  if (type === 'entity.too.large') {
    return new Problem(413, 'Too large', 'The request is too large. Nothing was saved; send less at a time.');
  }
  if (type === 'encoding.unsupported' || type === 'charset.unsupported') {
    return new Problem(415, 'Unsupported encoding', 'Send plain JSON in UTF-8.');
  }
  if (status !== undefined && status >= 400 && status < 500) {
    return new Problem(status, 'Bad request', 'The request could not be read. Nothing was saved.');
  }
  return new Problem(
    500,
    'Something went wrong here',
    'The server could not finish this. Nothing was half saved; try again.',
  );
}

/** Turns whatever was thrown into a problem document. What is our own fault goes to the log, not to the page. */
export function problemHandler(log: (error: unknown) => void): ErrorRequestHandler {
  return (error, _req, res, next) => {
    const problem = asProblem(error);
    if (problem.status >= 500) log(error);
    if (res.headersSent) {
      next(error);
      return;
    }
    res
      .status(problem.status)
      .type('application/problem+json')
      .send(
        JSON.stringify({
          type: 'about:blank',
          title: problem.title,
          status: problem.status,
          detail: problem.message,
          ...(problem.fields.length > 0 ? { fields: problem.fields } : {}),
          ...problem.extra,
        }),
      );
  };
}
