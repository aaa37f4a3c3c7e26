import { stageAt, stagesOf } from '@vigilum/core/classroom';
import { standingIn, stripOf } from '@vigilum/core/hour';
import { periodById, teamsOf } from '../classes/periods.ts';
import { one, type Queries } from '../db/database.ts';
import { stepsOfHour } from '../hour/sheet.ts';

/** How long each team has been at its step, min, and what it calls for. */
const teams: Record<string, { forMin: number; calls?: string }> = {
  Gannet: { forMin: 2 },
  Plover: { forMin: 6 },
  Curlew: { forMin: 4, calls: 'It never stops and we do not see why' },
  Fulmar: { forMin: 11 },
  Dunlin: { forMin: 3 },
  Avocet: { forMin: 9 },
  Petrel: { forMin: 1 },
  Shag: { forMin: 5 },
};
/** How much of the hour is over, min. */
const SPENT = 28;

/** What the demo's hour holds beside the evidence of its teams: when each came to which step, two mats with turns and a queue, a call, a note. */
export async function seedRunningHour(
  tx: Queries,
  { hour, lesson, now }: { hour: number; lesson: number; now: Date },
): Promise<void> {
  const period = await periodById(tx, String(hour));
  const steps = stepsOfHour(period);
  const ago = (minutes: number) => new Date(now.getTime() - minutes * 60_000).toISOString();
  await tx.query('update periods set mats = 2, turn_minutes = 6 where id = $1', [hour]);
  for (const found of await teamsOf(tx, period)) {
    const { team, record } = found;
    const strip = stripOf(record.lesson, stagesOf(record), found.place, (step) => stageAt(record, step));
    const { at } = standingIn(steps, strip, []);
    const { forMin, calls } = teams[team.name]!;
    const { id: work } = await one<{ id: number }>(
      tx,
      'select id from works where team_id = $1 and lesson_id = $2',
      [team.id, lesson],
    );
    // It came to its step so long ago, and to those before in the times that the plan has for them.
    const whole = steps[Math.min(at, steps.length - 1)]!.fromMin || 1;
    for (const step of steps.slice(0, at + 1))
      await tx.query(
        'insert into step_visits (work_id, period_id, step_id, hour_s) values ($1, $2, $3, $4)',
        [work, hour, step.id, (60 * (SPENT - forMin) * step.fromMin) / whole],
      );
    const here = steps[Math.min(at, steps.length - 1)]!.id;
    await tx.query(
      `insert into lesson_places (work_id, step_id, at) values ($1, $2, $3)
       on conflict (work_id) do update set step_id = excluded.step_id`,
      [work, here, ago(forMin)],
    );
    if (calls)
      await tx.query('insert into team_calls (period_id, team_id, about, at) values ($1, $2, $3, $4)', [
        hour,
        team.id,
        calls,
        ago(3),
      ]);
  }
  // Two have been on the mats; one of them is there again to see why a trial missed. The teacher lets two more come.
  const turn = (team: string, mat: number, fromMin: number, toMin: number | null) =>
    tx.query(
      `insert into mat_turns (period_id, team_id, mat, began_s, ended_s) select $1, id, $3, $4, $5 from teams where name = $2`,
      [hour, team, mat, 60 * fromMin, toMin === null ? null : 60 * toMin],
    );
  await turn('Gannet', 1, 17, 22.5);
  await turn('Dunlin', 2, 12, 18);
  await turn('Dunlin', 1, SPENT - 2, null);
  for (const [place, team] of ['Shag', 'Curlew'].entries())
    await tx.query(
      'insert into mat_pins (period_id, team_id, place) select $1, id, $3 from teams where name = $2',
      [hour, team, place + 1],
    );
  await tx.query(
    `insert into hour_notes (period_id, team_id, kind, says, at)
     select $1, id, 'note', 'Read line by line what the robot does.', $2 from teams where name = 'Avocet'`,
    [hour, ago(4)],
  );
}
