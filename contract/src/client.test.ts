import { describe, expect, it } from '@jest/globals';
import { createClient, pathOf, type ApiProblem } from './client.ts';
import { allRoutes, replyFault } from './schemas.ts';

const answering = (status: number, body: string, seen: Request[] = []): typeof fetch =>
  ((url: string, init: RequestInit) => {
    seen.push(new Request(`http://x${url}`, init));
    return Promise.resolve(new Response(status === 204 ? null : body, { status }));
  }) as typeof fetch;
const failing = (problem: Promise<unknown>) =>
  problem.then(
    () => {
      throw new Error('It did not fail.');
    },
    (error: unknown) => error as ApiProblem,
  );

describe('the client', () => {
  it('fills in paths and queries, whatever stands in them', () => {
    expect(pathOf('GET /teams/:id/lessons/:slug', { id: 4, slug: 'a/b ü' })).toBe(
      '/teams/4/lessons/a%2Fb%20%C3%BC',
    );
    expect(pathOf('GET /kept-versions', { query: { of: 'note', key: '4/tide line/x' } })).toBe(
      '/kept-versions?of=note&key=4%2Ftide+line%2Fx',
    );
  });

  it('sends its own headers and those of the call', async () => {
    const seen: Request[] = [];
    const api = createClient(answering(204, '', seen), '/api', { 'x-page': 'me' });
    await api(
      'PUT /teams/:id/lessons/:slug/place',
      { id: 1, slug: 'x', body: { step: 'wire' } },
      { headers: { 'idempotency-key': 'k' } },
    );
    const [request] = seen;
    expect([
      request!.method,
      request!.headers.get('x-page'),
      request!.headers.get('idempotency-key'),
    ]).toEqual(['PUT', 'me', 'k']);
    expect(await request!.json()).toEqual({ step: 'wire' });
  });

  it('tells a refusal by the server’s own sentence and fields', async () => {
    const api = createClient(
      answering(
        422,
        JSON.stringify({ title: 'Check', detail: 'Too long.', fields: [{ field: 'a', says: 'b' }] }),
      ),
      '/api',
    );
    const problem = await failing(api('GET /today'));
    expect([problem.status, problem.message, problem.fields]).toEqual([
      422,
      'Too long.',
      [{ field: 'a', says: 'b' }],
    ]);
  });

  it.each<[string, typeof fetch]>([
    ['a server that cannot be reached', () => Promise.reject(new TypeError('Failed to fetch'))],
    ['something that is no answer of ours', answering(502, '<html>Bad gateway</html>')],
    ['a server whose database is away', answering(503, '{"title":"No database","detail":"x","retry":true}')],
    ['an answer cut off in the middle', answering(200, '{"now": 12')],
  ])('takes %s for no answer, so that a write is sent again', async (_, send) => {
    expect((await failing(createClient(send, '/api')('GET /today'))).status).toBe(0);
  });

  it('hands every reply to the check', async () => {
    const seen: unknown[] = [];
    const api = createClient(answering(200, '{"teams":[]}'), '/api', {}, (route, reply) =>
      seen.push(route, reply),
    );
    await api('GET /teams');
    expect(seen).toEqual(['GET /teams', { teams: [] }]);
  });
});

describe('the contract', () => {
  it('names every route by its method and its path', () => {
    const routes = Object.keys(allRoutes);
    expect(routes.length).toBeGreaterThan(70);
    for (const route of routes) expect(route).toMatch(/^(GET|POST|PUT|PATCH|DELETE) \/[a-z]/);
  });

  it('finds what is wrong with a reply', () => {
    expect(replyFault('GET /teams', { teams: [{ id: 1, name: 'Gannet', class: '7', robot: 1 }] })).toBeNull();
    expect(replyFault('GET /teams', { teams: [{ id: 1, name: 'Gannet', robot: 1 }] })).toMatch(/class/);
    expect(replyFault('GET /teams', { teams: [], more: 1 })).toMatch(/more/);
    expect(replyFault('GET /teams', undefined)).toMatch(/required/);
    expect(replyFault('DELETE /kits/:slug', {})).toMatch(/nothing was to be answered/);
  });
});
