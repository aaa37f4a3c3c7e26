import type { Body, Params, Query, Reply, Route } from './routes.ts';

/** A problem document (RFC 9457) as the server sends it; status 0 where the server could not be reached. */
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
  /** The fields that are named as wrong. */
  get fields(): { field: string; says: string }[] {
    const { fields } = this.body;
    return Array.isArray(fields) ? (fields as { field: string; says: string }[]) : [];
  }
}

type Given<Name extends string, Value> = [Value] extends [undefined] ? unknown : { [N in Name]: Value };
/** Everything a call needs: the names of its path, its query, its body. */
export type Call<R extends Route> = { [N in Params<R>]: string | number } & Given<'query', Query<R>> &
  Given<'body', Body<R>>;

export interface CallOptions {
  headers?: Record<string, string>;
  signal?: AbortSignal;
}

/** The path of a route with its names filled in. */
export function pathOf(route: Route, call: Record<string, unknown>): string {
  const path = route
    .slice(route.indexOf(' ') + 1)
    .replaceAll(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(call[name])));
  const query =
    call.query === undefined ? '' : `?${new URLSearchParams(call.query as Record<string, string>)}`;
  return path + query;
}

/** Browsers deliver at most 64 kB for a page that is gone; letters may take several bytes. */
const KEPT_ALIVE = 20_000;

const unreachable = () =>
  new ApiProblem(
    0,
    'No answer',
    'Vigilum’s server does not answer. What you typed stays on this page; try again in a moment.',
  );

/** One function for every route of the API. Anything but success becomes an ApiProblem with a sentence for people. */
export function createClient(
  send: typeof fetch,
  base: string,
  headers: Record<string, string> = {},
  check?: (route: Route, reply: unknown) => void,
) {
  return async <R extends Route>(
    route: R,
    ...[call, options]: keyof Call<R> extends never ? [Call<R>?, CallOptions?] : [Call<R>, CallOptions?]
  ): Promise<Reply<R>> => {
    const given = (call ?? {}) as Record<string, unknown>;
    const [method] = route.split(' ');
    const body = method === 'GET' || method === 'DELETE' ? null : JSON.stringify(given.body ?? {});
    const response = await send(`${base}${pathOf(route, given)}`, {
      method,
      // What is small enough is delivered even when the page is closed meanwhile.
      keepalive: body !== null && body.length < KEPT_ALIVE,
      headers: {
        ...headers,
        ...options?.headers,
        ...(body === null ? {} : { 'content-type': 'application/json' }),
      },
      ...(body === null ? {} : { body }),
      ...(options?.signal ? { signal: options.signal } : {}),
    }).catch(() => {
      throw unreachable();
    });
    if (response.status === 204) {
      check?.(route, undefined);
      return undefined as Reply<R>;
    }
    const data: unknown = await response.json().catch(() => {
      // A proxy or a half-dead server may answer with something else than JSON: that is no answer of ours.
      throw unreachable();
    });
    if (!response.ok) {
      const { title, detail, retry } = data as { title?: unknown; detail?: unknown; retry?: unknown };
      throw new ApiProblem(
        // Whether it was done is not known, or it was not and will be the next time: as good as no answer.
        retry === true ? 0 : response.status,
        typeof title === 'string' ? title : 'Something went wrong',
        typeof detail === 'string' ? detail : 'The server could not do this. Nothing was lost; try again.',
        data as Record<string, unknown>,
      );
    }
    check?.(route, data);
    return data as Reply<R>;
  };
}

export type Client = ReturnType<typeof createClient>;
