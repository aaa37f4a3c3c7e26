import { prove, rehearse, tryCircumstances, type KnownRobot } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { asNumber, type RobotBuild } from '@vigilum/core/sensing';
import { addHour } from '../classes/hours.ts';
import { one, type Queries } from '../db/database.ts';
import { StandInRobot, type StandInCharacter } from '../devices/standInRobot.ts';
import { roomOf } from '../robots/store.ts';
import { cobble } from '../starter/cobble.ts';
import { bumpAndTurn } from '../starter/lessons/touch.ts';
import { Measured } from './measure.ts';

/** A team of the demo with its robot. */
export interface Crew {
  team: number;
  robot: number;
  name: string;
  build: RobotBuild;
  nature: StandInCharacter;
}

const DAY_MIN = 24 * 60;
/** Last week's hour began so many minutes before today's. */
const WEEK_MIN = 7 * DAY_MIN;

/** What a crew came to last week: the model answer, or a usual fault of it; where it stopped. */
const cameTo: { script: 'model' | number; proved: boolean; trials: number; reflect?: string }[] = [
  {
    script: 'model',
    proved: true,
    trials: 3,
    reflect: 'Back off first: turned at the wall, its corner stays caught.',
  },
  { script: 'model', proved: true, trials: 3 },
  {
    script: 1,
    proved: true,
    trials: 1,
    reflect: 'It bumped once and then stood: nothing said again.',
  },
  { script: 'model', proved: true, trials: 3 },
  { script: 3, proved: true, trials: 0 },
  {
    script: 'model',
    proved: true,
    trials: 3,
    reflect: 'A quarter turn is enough, but only if there is room behind it.',
  },
  { script: 'model', proved: true, trials: 2 },
  { script: 'model', proved: false, trials: 0 },
];

/** Last week's hour with what its teams did, and next week's, which is planned. */
export async function seedOtherHours(
  tx: Queries,
  klass: number,
  crews: readonly Crew[],
  now: Date,
): Promise<void> {
  const at = (minutesAgo: number) => new Date(now.getTime() - minutesAgo * 60_000);
  const idOf = async (slug: string) =>
    (await one<{ id: number }>(tx, 'select id from lessons where slug = $1', [slug])).id;
  const began = WEEK_MIN + 28;
  const lesson = await idOf(bumpAndTurn.slug);
  const hour = { classId: klass, minutes: bumpAndTurn.minutes, anew: true };
  const last = await addHour(tx, { ...hour, lessonId: lesson, startsAt: at(began), began: true });
  await tx.query('update periods set ended_at = $2 where id = $1', [
    last.id,
    at(began - bumpAndTurn.minutes).toISOString(),
  ]);
  await addHour(tx, {
    ...hour,
    lessonId: await idOf('follow-the-channel'),
    startsAt: at(28 - WEEK_MIN),
    began: false,
  });
  const room = await roomOf(tx);
  for (const [index, crew] of crews.entries()) {
    const standIn = { name: crew.name, kit: cobble, build: crew.build, character: crew.nature, ...room };
    const hands = new Measured(new StandInRobot({ ...standIn, seed: 300 + index }));
    await lastWeek(tx, crew, hands, index, { lesson, first: last.first_id, at: (min) => at(began - min) });
  }
}

async function lastWeek(
  tx: Queries,
  { team, robot, build }: Crew,
  hands: Measured,
  index: number,
  { lesson, first, at }: { lesson: number; first: number; at: (minutesIn: number) => Date },
): Promise<void> {
  const { socket } = bumpAndTurn.need;
  const { script, proved, trials, reflect } = cameTo[index % cameTo.length]!;
  const when = (minutesIn: number) => at(minutesIn + index).toISOString();
  const work = (
    await one<{ id: number }>(
      tx,
      'insert into works (team_id, lesson_id, first_period_id) values ($1, $2, $3) returning id',
      [team, lesson, first],
    )
  ).id;
  await tx.query(
    `insert into wire_checks (robot_id, socket, kind, reacts, says, checked_at) values ($1, $2, 'touch', true, 'It reacts: from 0 to 1.', $3)`,
    [robot, socket, when(3)],
  );
  await tx.query(
    `insert into recordings (robot_id, work_id, socket, kind, purpose, period_ms, readings, taken_at)
     values ($1, $2, $3, 'touch', 'touch', 10, $4::double precision[], $5)`,
    [robot, work, socket, hands.presses(socket, 600, [500, 1600 + 40 * index, 2900]).map(asNumber), when(8)],
  );
  const text = script === 'model' ? bumpAndTurn.modelScript : bumpAndTurn.faults![script]!.script;
  await tx.query('insert into script_versions (work_id, version, text, saved_at) values ($1, 1, $2, $3)', [
    work,
    text,
    when(22),
  ]);
  const program = parseScript(text);
  if (!canRun(program)) return;
  const known: KnownRobot = { kit: cobble, build, sets: [], thresholds: {} };
  const { judgements } = rehearse(
    bumpAndTurn,
    known,
    program,
    tryCircumstances(bumpAndTurn, 'A', 40 + index),
  );
  await tx.query(
    `insert into tries (work_id, script_version, start_name, seed, judgements, past_mm, tried_at)
     values ($1, 1, 'A', $2, $3::jsonb, null, $4)`,
    [work, 40 + index, JSON.stringify(judgements), when(25)],
  );
  if (proved) {
    const { runs, seed } = bumpAndTurn.proof;
    const { proof } = prove(bumpAndTurn, known, program, seed, runs);
    await tx.query(
      'insert into proofs (work_id, script_version, seed, proof, proved_at) values ($1, 1, $2, $3::jsonb, $4)',
      [work, seed, JSON.stringify(proof), when(28)],
    );
  }
  for (let i = 0; i < trials; i++)
    await tx.query(
      `insert into floor_trials (work_id, script_version, seen, step_id, note, tried_at)
       values ($1, 1, $2::jsonb, 'floor', $3, $4)`,
      [
        work,
        JSON.stringify({ bumps: 3 + ((index + i) % 4), 'at work 60': true }),
        `start ${'ABC'[i % 3]!}`,
        when(31 + i),
      ],
    );
  if (reflect)
    await tx.query('insert into step_notes (work_id, step_id, text, at) values ($1, $2, $3, $4)', [
      work,
      'reflect',
      reflect,
      when(40),
    ]);
}
