import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { byRule, expectedTurns, matNotices, queueOf, type Waiting } from './queue.ts';

const waiting = (team: number, readyMin: number, turns = 0, pinned: number | null = null): Waiting => ({
  team,
  readyMin,
  turns,
  pinned,
});
const teamsOf = (list: readonly Pick<Waiting, 'team'>[]) => list.map(({ team }) => team);
const someTeams = fc
  .uniqueArray(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 12 })
  .chain((ids) =>
    fc.tuple(
      ...ids.map((team) =>
        fc.record({
          team: fc.constant(team),
          readyMin: fc.integer({ min: 0, max: 50 }),
          turns: fc.integer({ min: 0, max: 3 }),
          pinned: fc.option(fc.integer({ min: 1, max: 14 }), { nil: null, freq: 4 }),
        }),
      ),
    ),
  );

describe('the queue for the mats', () => {
  it('a team that has not been there goes before one that has, then whoever is ready longest', () => {
    const queue = queueOf([waiting(1, 10, 1), waiting(2, 30), waiting(3, 12), waiting(4, 5, 2)]);
    expect(teamsOf(queue)).toEqual([3, 2, 1, 4]);
    expect(queue.map(({ place, why }) => `${place} ${why}`)).toEqual([
      '1 not on a mat yet',
      '2 not on a mat yet',
      '3 has been once',
      '4 has been 2 times',
    ]);
  });

  it('a pinned team stands where the teacher put it, at the end where the queue is shorter', () => {
    expect(teamsOf(queueOf([waiting(1, 1), waiting(2, 2), waiting(3, 3, 0, 1)]))).toEqual([3, 1, 2]);
    expect(teamsOf(queueOf([waiting(1, 1), waiting(2, 2, 0, 9)]))).toEqual([1, 2]);
    expect(teamsOf(queueOf([waiting(1, 1, 0, 9), waiting(2, 2)]))).toEqual([2, 1]);
    expect(queueOf([waiting(3, 3, 0, 1)])[0]!.why).toBe('set by the teacher');
  });

  it('loses nobody, and does not care in which order teams are told', () => {
    fc.assert(
      fc.property(someTeams, fc.nat(), (teams, by) => {
        const turned = [...teams.slice(by % teams.length), ...teams.slice(0, by % teams.length)];
        const queue = queueOf(teams);
        expect([...teamsOf(queue)].sort((a, b) => a - b)).toEqual([...teamsOf(teams)].sort((a, b) => a - b));
        expect(queueOf(turned)).toEqual(queue);
        expect(queue.map(({ place }) => place)).toEqual(teams.map((_, i) => i + 1));
      }),
    );
  });

  it('is stable: who leaves or joins changes nothing among the others', () => {
    fc.assert(
      fc.property(someTeams, (teams) => {
        const free = teams.map((team) => ({ ...team, pinned: null }));
        const order = teamsOf(queueOf(free));
        for (const gone of free)
          expect(teamsOf(queueOf(free.filter((team) => team !== gone)))).toEqual(
            order.filter((team) => team !== gone.team),
          );
      }),
    );
  });

  it('holds a single pin wherever there is a place for it', () => {
    fc.assert(
      fc.property(someTeams, fc.nat(), fc.integer({ min: 1, max: 12 }), (teams, which, pinned) => {
        const chosen = teams[which % teams.length]!.team;
        const queue = queueOf(
          teams.map((team) => ({ ...team, pinned: team.team === chosen ? pinned : null })),
        );
        expect(queue.find(({ team }) => team === chosen)!.place).toBe(Math.min(pinned, teams.length));
      }),
    );
  });

  it('lets nobody wait for ever: however turns go, each team comes within a turn of every other', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 10 }),
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 80, maxLength: 80 }),
        (n, arrivals) => {
          // Teams come ready again at any time after their turn; served one a minute.
          const teams = Array.from({ length: n }, (_, i) => waiting(i + 1, arrivals[i]!));
          const missed = new Map(teams.map(({ team }) => [team, 0]));
          arrivals.forEach((again, minute) => {
            const ready = teams.filter(({ readyMin }) => readyMin <= minute);
            const [next] = queueOf(ready);
            if (!next) return;
            for (const { team } of ready) missed.set(team, missed.get(team)! + 1);
            const served = teams.find(({ team }) => team === next.team)!;
            // A team that has never been on a mat waits at most until all others have had their first.
            expect(missed.get(next.team)!).toBeLessThanOrEqual(n * (served.turns + 1) + 10 * n);
            missed.set(next.team, 0);
            served.turns += 1;
            served.readyMin = minute + 1 + again;
          });
          const turns = teams.map((team) => team.turns);
          // Whoever keeps coming back shares alike: nobody who was there from the start is a round behind by much.
          expect(Math.min(...turns)).toBeGreaterThan(0);
        },
      ),
    );
  });

  it('expects turns one after the other on the mat that is free first', () => {
    const queue = queueOf([waiting(1, 1), waiting(2, 2), waiting(3, 3)]);
    const turns = [
      { team: 8, mat: 1, beganMin: 18 },
      { team: 9, mat: 2, beganMin: 10 },
    ];
    // Mat 2 is over its time already, so it is expected now.
    expect(expectedTurns(queue, { mats: 2, turnMin: 6, now: 20, turns })).toEqual([
      { team: 1, mat: 2, fromMin: 20, toMin: 26 },
      { team: 2, mat: 1, fromMin: 24, toMin: 30 },
      { team: 3, mat: 2, fromMin: 26, toMin: 32 },
    ]);
  });

  it('says which mat is idle, which turn is over, and who will not be reached', () => {
    const queue = queueOf([waiting(1, 2), waiting(2, 19), waiting(3, 5, 1)]);
    const given = { mats: 2, turnMin: 5, now: 20, endMin: 24, turns: [{ team: 9, mat: 1, beganMin: 12 }] };
    expect(matNotices(queue, given)).toEqual([
      { kind: 'over', mat: 1, team: 9, minutes: 3 },
      { kind: 'idle', mat: 2, team: 1, minutes: 18 },
      // Ready for 18 min, three turns' time is 15.
      { kind: 'starving', mat: null, team: 1, minutes: 18 },
    ]);
    // Nobody waits: an idle mat is nothing to say.
    expect(matNotices([], given).map(({ kind }) => kind)).toEqual(['over']);
    expect([waiting(2, 1), waiting(1, 1)].sort(byRule).map(({ team }) => team)).toEqual([1, 2]);
  });
});
