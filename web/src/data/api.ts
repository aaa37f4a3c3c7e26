/** A problem document (RFC 9457) as the server sends it, or that the server could not be reached. */
export class ApiProblem extends Error {
  readonly status: number;
  readonly title: string;
  readonly body: Record<string, unknown>;
  constructor(status: number, title: string, detail: string, body: Record<string, unknown> = {}) {
    super(detail);
    this.status = status;
    this.title = title;
    this.body = body;
  }
}

/** Browsers deliver at most 64 kB for a page that is gone; letters may take several bytes. */
const KEPT_ALIVE = 20_000;

/** Calls the API; anything but success becomes an ApiProblem with a sentence for people. */
export async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  const sent = body === undefined ? null : JSON.stringify(body);
  try {
    response = await fetch(`/api${path}`, {
      method,
      // What is small enough is delivered even when the page is closed meanwhile.
      keepalive: sent !== null && sent.length < KEPT_ALIVE,
      ...(sent === null ? {} : { headers: { 'content-type': 'application/json' }, body: sent }),
    });
  } catch {
    throw new ApiProblem(
      0,
      'No answer',
      'Vigilum’s server does not answer. What you typed stays on this page; try again in a moment.',
    );
  }
  if (response.status === 204) return undefined as T;
  const data = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (!response.ok) {
    throw new ApiProblem(
      response.status,
      typeof data.title === 'string' ? data.title : 'Something went wrong',
      typeof data.detail === 'string'
        ? data.detail
        : 'The server could not do this. Nothing was lost; try again.',
      data,
    );
  }
  return data as T;
}

export const get = <T>(path: string) => call<T>('GET', path);
export const post = <T>(path: string, body: unknown = {}) => call<T>('POST', path, body);
export const put = <T>(path: string, body: unknown) => call<T>('PUT', path, body);
export const patch = <T>(path: string, body: unknown) => call<T>('PATCH', path, body);
export const remove = (path: string) => call<void>('DELETE', path);
