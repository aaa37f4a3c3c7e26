import type { Doors, OwnerLink } from '@vigilum/contract/types';
import { signedIn, type DemoApp } from './harness.ts';

export type Api = ReturnType<typeof signedIn>;
export const PASSWORD = 'slow heron under bridges';
export const stranger = (demo: DemoApp): Api => signedIn(demo.app, 'other=1');

/** Takes up an invitation; requests in the name of who did. */
export async function accept(demo: DemoApp, token: string, name: string): Promise<Api> {
  const answer = await stranger(demo)
    .post(`/api/invitations/${token}/acceptance`)
    .send({ name, password: PASSWORD })
    .expect(201);
  return signedIn(demo.app, answer.headers['set-cookie']![0]!.split(';')[0]!);
}

/** A second school with a class, people of every role, a tablet and a projector; made as people make it. */
export async function secondSchool(demo: DemoApp, slug = 'far-shore', name = 'Far Shore School') {
  const made = (await demo.api.post('/api/schools').send({ slug, name }).expect(201)).body as OwnerLink & {
    id: number;
  };
  const owner = await accept(demo, made.token, 'Olwen Farshore');
  const colleague = async (role: string, who: string) => {
    const { token } = (await owner.post('/api/invitations').send({ role }).expect(201)).body as OwnerLink;
    return accept(demo, token, who);
  };
  const klass = (
    await owner
      .post('/api/classes')
      .send({
        school: name,
        name: 'Far 9',
        teams: ['Fargo', 'Farrow'],
        robots: { kit: 'cobble', cupboard: '', take: 'new' },
      })
      .expect(201)
  ).body as { id: number };
  const doors = (await owner.get(`/api/classes/${klass.id}/doors`).expect(200)).body as Doors;
  const by = async (path: string, body: object) => {
    const answer = await stranger(demo).post(`/api/doors/${path}`).send(body).expect(201);
    return signedIn(demo.app, answer.headers['set-cookie']![0]!.split(';')[0]!);
  };
  return {
    id: made.id,
    klass: klass.id,
    doors,
    apis: {
      owner,
      teacher: await colleague('teacher', 'Tove Farshore'),
      guest: await colleague('guest', 'Gil Farshore'),
      team: await by('cards', { card: doors.teams[0]!.card }),
      board: await by('boards', { board: doors.board }),
    },
  };
}

/** The school that a database has from its beginning. */
export const FIRST = 1;
