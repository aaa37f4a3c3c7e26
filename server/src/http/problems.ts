import type { ErrorRequestHandler, RequestHandler } from 'express';

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

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
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
