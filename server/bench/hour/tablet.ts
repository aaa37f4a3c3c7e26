import { ChangeSet, Text } from '@codemirror/state';
import { KEY_HEADER } from '@vigilum/contract/changes';
import { ApiProblem } from '@vigilum/contract/client';
import type { ScriptUpdate } from '@vigilum/contract/types';
import { clientOf, follow, surely, type Hour } from './pages.ts';
import type { Team } from './school.ts';
import { wait } from './servers.ts';

const READ_EVERY_MS = 5000;

/** What a tablet got acknowledged: nothing of it may be gone at the end. */
export interface Held {
  sets: number[];
  words: string[];
}

/** The tablet of a team, the n-th of `tablets`: reads, writes, proves, until the hour is over. */
export async function tablet(hour: Hour, team: Team, n: number, tablets: number): Promise<Held> {
  const { figures } = hour;
  const api = clientOf(hour, `bench-tablet-${n}`, team.cookie, n);
  const askHour = () => void api('GET /teams/:id/hour', { id: team.id }).catch(() => undefined);
  const asksHour = setInterval(askHour, 15_000);
  const held: Held = { sets: [], words: [] };
  const path = { id: team.id, slug: 'tide-line' };
  const stopHearing = follow(hour.servers.baseOf(n), team.cookie, (change) => {
    if (change.what === 'hour') askHour();
    const mine =
      (change.what === 'evidence' && change.team === team.id) ||
      (change.what === 'robot' && change.teams.includes(team.id));
    // What this tablet did itself it knows from the answer.
    if (mine && change.by !== `bench-tablet-${n}`)
      void api('GET /teams/:id/lessons/:slug', path).catch(() => undefined);
  });
  await surely(() => api('GET /teams/:id/lessons/:slug', path));
  let script = await surely(() => api('GET /teams/:id/lessons/:slug/script', path));
  // Steps that run, so that proofs have something to prove.
  const steps = 'drive 30 %\nwait until floor < 50 %\nstop\n';
  const first = ChangeSet.of(
    { from: script.text.length, insert: Text.of(`\n${steps}`.split('\n')) },
    script.text.length,
  );
  script = {
    ...script,
    text: `${script.text}\n${steps}`,
    // All begin in the same second: whoever is told to try again does.
    revision: (
      await surely((key) =>
        api(
          'POST /teams/:id/lessons/:slug/script-updates',
          {
            ...path,
            body: {
              from: script.revision,
              updates: [{ client: `c${n}`, changes: first.toJSON() as ScriptUpdate['changes'] }],
              settle: { by: `tablet ${n}` },
            },
          },
          { headers: { [KEY_HEADER]: key } },
        ),
      )
    ).revision,
  };
  await wait((n * READ_EVERY_MS) / tablets);
  let cameBack = false;
  for (let round = 0; !figures.over; round++) {
    const started = performance.now();
    const surface = round % 2 === 0 ? 'tide line' : 'quay boards';
    const at = round % 2 === 0 ? 22 : 76;
    const { id } = await surely((key) =>
      api(
        'POST /robots/:id/sample-sets',
        {
          id: team.robot,
          body: {
            socket: 'K3',
            kind: 'light',
            surface,
            values: Array.from({ length: 20 }, (_, i) => at + ((i + n + round) % 3)),
            whose: { team: team.id, lesson: 'tide-line' },
          },
        },
        { headers: { [KEY_HEADER]: key } },
      ),
    );
    const took = performance.now() - started;
    held.sets.push(id);
    const stopped = figures.restartedAt > 0 && started < figures.restartedAt;
    if (!stopped) figures.saves.push(took);
    figures.stored.set(team.id, performance.now());
    if (figures.restartedAt > 0 && !cameBack) {
      cameBack = true;
      figures.backAfter.push(performance.now() - figures.restartedAt);
    }
    if (round % 3 === n % 3) {
      const word = `# round ${round} of tablet ${n}\n`;
      const changes = ChangeSet.of(
        { from: 0, insert: Text.of(word.split('\n')) },
        script.text.length,
      ).toJSON() as ScriptUpdate['changes'];
      const pushed = performance.now();
      const answer = await surely(() =>
        api('POST /teams/:id/lessons/:slug/script-updates', {
          ...path,
          body: {
            from: script.revision,
            updates: [{ client: `c${n}`, changes }],
            settle: { by: `tablet ${n}` },
          },
        }).catch(async (error: unknown) => {
          // Stored, and only the answer was lost: the update is there already.
          if (!(error instanceof ApiProblem) || error.status !== 409) throw error;
          return api('GET /teams/:id/lessons/:slug/script', path);
        }),
      );
      if (figures.restartedAt === 0 || pushed > figures.restartedAt)
        figures.saves.push(performance.now() - pushed);
      held.words.push(word);
      script = { ...script, revision: answer.revision, text: word + script.text };
    }
    if (round % 12 === n % 12) {
      const { saved } = await surely(() => api('GET /teams/:id/lessons/:slug/script', path));
      if (saved)
        void api('POST /teams/:id/lessons/:slug/proofs', {
          ...path,
          body: { scriptVersion: saved.version, seed: round + 1, runs: 20 },
        }).catch(() => figures.refused++);
    }
    await wait(Math.max(0, READ_EVERY_MS - (performance.now() - started)));
  }
  stopHearing();
  clearInterval(asksHour);
  return held;
}
