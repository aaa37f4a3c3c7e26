import { clientOf, enter, surely, type Hour } from './pages.ts';

export interface Team {
  id: number;
  /** Its tablet's session. */
  cookie: string;
  robot: number;
  period: number;
}

/** Classes of ten teams with an hour each; everybody comes in by a door. `boards` are the sessions of their projectors. */
export async function setUp(hour: Hour, tablets: number): Promise<{ teams: Team[]; boards: string[] }> {
  const boards: string[] = [];
  const api = clientOf(hour, 'bench-teacher');
  const teams: Team[] = [];
  for (let k = 0; teams.length < tablets; k++) {
    const names = Array.from({ length: Math.min(10, tablets - teams.length) }, (_, i) => `Tug ${k}-${i}`);
    const { id } = await api('POST /classes', {
      body: {
        school: 'Bench Harbour School',
        name: `Class ${k + 1}`,
        teams: names,
        robots: { kit: 'cobble', cupboard: '', take: 'new' },
      },
    });
    const { id: period } = await api('POST /periods', {
      body: { classId: id, lesson: 'tide-line', minutes: 50 },
    });
    const { teams: all } = await api('GET /teams');
    const doors = await api('GET /classes/:id/doors', { id });
    boards.push(await enter(hour, 'boards', { board: doors.board }));
    const cookies = new Map<number, string>();
    for (const team of doors.teams) cookies.set(team.id, await enter(hour, 'cards', { card: team.card }));
    teams.push(
      ...all
        .filter(({ name }) => names.includes(name))
        .map((team) => ({ id: team.id, robot: team.robot, period, cookie: cookies.get(team.id)! })),
    );
  }
  return { teams, boards };
}

/** The teacher proves what all teams of a class have, as the page does it: two at a time. */
export async function checkClass(hour: Hour, own: readonly Team[], round: number): Promise<number> {
  const api = clientOf(hour, 'bench-teacher-check');
  const began = performance.now();
  const left = [...own];
  const lane = async () => {
    for (let team = left.pop(); team; team = left.pop()) {
      const path = { id: team.id, slug: 'tide-line' };
      const { saved } = await surely(() => api('GET /teams/:id/lessons/:slug/script', path));
      if (saved)
        await api('POST /teams/:id/lessons/:slug/proofs', {
          ...path,
          body: { scriptVersion: saved.version, seed: round, runs: 20 },
        }).catch(() => hour.figures.refused++);
    }
  };
  await Promise.all([lane(), lane()]);
  return performance.now() - began;
}
