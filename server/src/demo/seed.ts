import { pastSignal } from '@vigilum/core/expect';
import { prove, rehearse, tryCircumstances, type KnownRobot } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { EDGE } from '@vigilum/core/classroom';
import { asNumber, QUICK_LOOKS, type RobotBuild } from '@vigilum/core/sensing';
import { byMethod, pairOf, recommend } from '@vigilum/core/threshold';
import { addHour } from '../classes/hours.ts';
import { one, type Database, type Queries } from '../db/database.ts';
import { StandInRobot, type StandInCharacter } from '../devices/standInRobot.ts';
import { roomOf } from '../robots/store.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { addStarter } from '../starter/starter.ts';
import { tideLine } from '../starter/tideLine.ts';
import { Measured } from './measure.ts';
import { seedRunningHour } from './runningHour.ts';
import { seedOtherHours, type Crew } from './otherHours.ts';
import { seedSpareRobots } from './spareRobots.ts';
import { teams, type DemoTeam } from './teams.ts';
import { seedYear } from './year.ts';

/** Its robot: a plain one but for what the demo gives it. */
const buildOf = (team: DemoTeam): RobotBuild => ({
  ...cobbleBuild,
  ...(team.quirks ? { quirks: team.quirks } : {}),
  fittings: cobbleBuild.fittings.map((fitting) =>
    fitting.mode === 'light'
      ? { ...fitting, socket: team.socket ?? fitting.socket, heightMm: team.heightMm ?? fitting.heightMm }
      : fitting,
  ),
});

/** Fills an empty database with the harbour school in the middle of a lesson at `now`. */
export async function seedDemo(db: Database, now: Date): Promise<void> {
  await db.transaction(async (tx) => {
    const ago = (minutes: number) => new Date(now.getTime() - minutes * 60_000).toISOString();
    await tx.query(`insert into meta (key, value) values ('demo clock', $1::jsonb)`, [
      JSON.stringify(now.getTime()),
    ]);
    const insert = async (sql: string, params: unknown[]) =>
      (await one<{ id: number }>(tx, `${sql} returning id`, params)).id;
    await addStarter(tx);
    // Its own machine is signed in by itself; no password opens it.
    await tx.query(`insert into accounts (name, role, made_at) values ('Demo Teacher', 'owner', $1)`, [
      now.toISOString(),
    ]);
    const idOf = async (table: 'kits' | 'lessons', slug: string) =>
      (await one<{ id: number }>(tx, `select id from ${table} where slug = $1`, [slug])).id;
    const kit = await idOf('kits', cobble.slug);
    await tx.query(`update schools set slug = 'ternmouth', name = 'Ternmouth Harbour School'`);
    const klass = await insert('insert into classes (school, name) values ($1, $2)', [
      'Ternmouth Harbour School',
      '7 Kittiwake',
    ]);
    const lesson = await idOf('lessons', tideLine.slug);
    const hour = await addHour(tx, {
      classId: klass,
      lessonId: lesson,
      startsAt: new Date(now.getTime() - 28 * 60_000),
      minutes: tideLine.minutes,
      began: true,
      anew: true,
    });
    const crews: Crew[] = [];
    for (const [index, team] of teams.entries()) {
      const build = buildOf(team);
      const nature = { ...plainCharacter, ...team.character };
      const robot = await insert(
        "insert into robots (kit_id, name, build, stand_in, cupboard) values ($1, $2, $3::jsonb, $4::jsonb, 'chart room')",
        [kit, `Cobble ${index + 1}`, JSON.stringify(build), JSON.stringify(nature)],
      );
      const teamId = await insert('insert into teams (class_id, robot_id, name) values ($1, $2, $3)', [
        klass,
        robot,
        team.name,
      ]);
      const work = await insert(
        'insert into works (team_id, lesson_id, first_period_id) values ($1, $2, $3)',
        [teamId, lesson, hour.first_id],
      );
      crews.push({ team: teamId, robot, name: team.name, build, nature });
      await history(tx, { team, build, nature, robot, work, index, ago });
    }
    await seedRunningHour(tx, { hour: hour.id, lesson, now });
    await seedOtherHours(tx, klass, crews, now);
    await seedSpareRobots(tx, ago);
    await seedYear(tx, klass, crews, now);
  });
}

interface Told {
  team: DemoTeam;
  build: RobotBuild;
  nature: StandInCharacter;
  robot: number;
  /** What the team does belongs to it. */
  work: number;
  index: number;
  ago: (minutes: number) => string;
}

/** What one team has done so far; every verdict is computed from its readings and its script. */
async function history(tx: Queries, { team, build, nature, robot, work, index, ago }: Told): Promise<void> {
  const { socket } = tideLine.need;
  const known: KnownRobot = { kit: cobble, build, sets: [], thresholds: {} };
  if (team.checkedMin !== undefined) {
    await tx.query(
      "insert into wire_checks (robot_id, socket, kind, reacts, lowest, highest, checked_at) values ($1, $2, 'light', true, 4, 88, $3)",
      [robot, socket, ago(team.checkedMin)],
    );
  }
  if (team.readMin === undefined) return;
  const room = await roomOf(tx);
  const config = { name: team.name, kit: cobble, build, character: nature, ...room, seed: 500 + index };
  const hands = new Measured(new StandInRobot(config));
  const setIds: number[] = [];
  const keep = async (surface: string) => {
    const values = hands.samples(socket, tideLine.read.burst).map(asNumber);
    const row = await one<{ id: number }>(
      tx,
      `insert into sample_sets (robot_id, work_id, socket, kind, surface, readings, light_note, taken_at)
       values ($1, $6, $2, 'light', $3, $4::double precision[], 'blinds half down', $5) returning id`,
      [robot, socket, surface, values, ago(team.readMin!), work],
    );
    return { id: row.id, values };
  };
  for (const { surface } of tideLine.read.tasks) {
    hands.hand({ put: 'over', surface });
    const { id, values } = await keep(surface);
    setIds.push(id);
    known.sets.push({ socket, surface, values });
  }
  if (team.thorough === 'edge and rival') {
    hands.hand({ put: 'over', surface: 'red card' });
    await keep('red card');
  }
  if (team.thorough) await readMore(tx, hands, { robot, work }, build, keep, ago(team.readMin - 0.5));
  if (team.looked) {
    hands.hand({ put: 'over', surface: team.looked.surface });
    hands.hand({ put: 'room', light: team.looked.roomLight });
    await tx.query(
      `insert into quick_looks (robot_id, work_id, socket, surface, readings, taken_at)
       values ($1, $6, $2, $3, $4::double precision[], $5)`,
      [
        robot,
        socket,
        team.looked.surface,
        hands.samples(socket, QUICK_LOOKS).map(asNumber),
        ago(team.looked.min),
        work,
      ],
    );
  }
  if (team.decide) {
    const [a, b] = known.sets.map((set) => ({ name: set.surface, values: set.values }));
    const pair = pairOf(a!, b!, '%', 1);
    if (!pair.ok) throw new Error(`${team.name}: ${pair.says}`);
    const { candidates } = byMethod(pair.value);
    const { method } = team.decide;
    const chosen =
      typeof method === 'number'
        ? method
        : (candidates.find((c) => c.method === method) ?? recommend(candidates).best).value;
    known.thresholds[socket] = chosen;
    await tx.query(
      `insert into thresholds (robot_id, work_id, socket, value, method, low_set_id, high_set_id, decided_at, reason)
       values ($1, $9, $2, $3, $4, $5, $6, $7, $8)`,
      [
        robot,
        socket,
        chosen,
        typeof method === 'number' ? 'own choice' : method,
        setIds[0],
        setIds[1],
        ago(team.decide.min),
        team.decide.reason ?? '',
        work,
      ],
    );
  }
  if (!team.script) return;
  const versions = [...(team.script.earlier ?? []), team.script];
  for (const [i, { text, min, by = '' }] of versions.entries()) {
    await tx.query(
      'insert into script_versions (work_id, version, text, saved_at, saved_by) values ($1, $2, $3, $4, $5)',
      [work, i + 1, text, ago(min), by],
    );
  }
  const newest = versions.length;
  const program = parseScript(team.script.text);
  if (!canRun(program)) return;
  for (let i = 0; i < (team.tried?.times ?? 0); i++) {
    const seed = 40 + i;
    const { evidence, judgements } = rehearse(
      tideLine,
      known,
      program,
      tryCircumstances(tideLine, 'A', seed),
    );
    const past = evidence.signals[pastSignal(tideLine.floor.landmark)]!.values.at(-1)!;
    await tx.query(
      `insert into tries (work_id, script_version, start_name, seed, judgements, past_mm, tried_at)
       values ($1, $6, 'A', $2, $3::jsonb, $4, $5)`,
      [work, seed, JSON.stringify(judgements), past, ago(team.tried!.min - i * 0.5), newest],
    );
  }
  if (team.provedMin !== undefined) {
    const { runs, seed } = tideLine.proof;
    const { proof } = prove(tideLine, known, program, seed, runs);
    await tx.query(
      `insert into proofs (work_id, script_version, seed, proof, proved_at) values ($1, $5, $2, $3::jsonb, $4)`,
      [work, seed, JSON.stringify(proof), ago(team.provedMin), newest],
    );
  }
  for (const [step, text] of Object.entries(team.notes ?? {})) {
    const min = step === 'predict' ? (team.tried?.min ?? 0) + 1 : 2;
    await tx.query('insert into step_notes (work_id, step_id, text, at) values ($1, $2, $3, $4)', [
      work,
      step,
      text,
      ago(min),
    ]);
  }
  for (const trial of team.trials ?? []) {
    await tx.query(
      `insert into floor_trials (work_id, script_version, past_mm, rested, took_s, note, tried_at, changed)
       values ($1, $7, $2, $3, $4, $5, $6, $8)`,
      [
        work,
        trial.pastMm,
        trial.rested,
        trial.tookS,
        trial.note,
        ago(trial.min),
        trial.version ?? newest,
        trial.changed ?? '',
      ],
    );
  }
}

/** What a thorough team reads beside the surfaces: across the edge, and one slow sweep over the mat. */
async function readMore(
  tx: Queries,
  hands: Measured,
  { robot, work }: Pick<Told, 'robot' | 'work'>,
  build: RobotBuild,
  keep: (surface: string) => Promise<unknown>,
  at: string,
): Promise<void> {
  const { socket } = tideLine.need;
  const { aheadMm } = build.fittings.find((f) => f.socket === socket)!;
  const edge = tideLine.course.landmarks.find(({ id }) => id === tideLine.floor.landmark)!;
  hands.hand({ put: 'at', xMm: edge.xMm, yMm: edge.yMm - aheadMm, bearingDeg: 0 });
  await keep(EDGE);
  const from = edge.yMm - aheadMm - 60;
  hands.hand({ put: 'at', xMm: edge.xMm, yMm: from, bearingDeg: 0 });
  hands.hand({ put: 'drag', toXMm: edge.xMm, toYMm: from + 140, seconds: 9 });
  const looks = hands.samples(socket, 180).map(asNumber);
  await tx.query(
    `insert into recordings (robot_id, work_id, socket, kind, purpose, period_ms, readings, taken_at)
     values ($1, $5, $2, 'light', 'sweep', 50, $3::double precision[], $4)`,
    [robot, socket, looks, at, work],
  );
}

/** Columns that tell a time, moved together so that the demo is always in the middle of its lesson. */
const times = [
  ['periods', 'starts_at'],
  ['periods', 'began_at'],
  ['periods', 'ended_at'],
  ['wire_checks', 'checked_at'],
  ['sample_sets', 'taken_at'],
  ['recordings', 'taken_at'],
  ['quick_looks', 'taken_at'],
  ['thresholds', 'decided_at'],
  ['script_versions', 'saved_at'],
  ['tries', 'tried_at'],
  ['proofs', 'proved_at'],
  ['floor_trials', 'tried_at'],
  ['step_notes', 'at'],
  ['meetings', 'starts_at'],
  ['classes', 'archived_at'],
  ['teams', 'joined_at'],
  ['teams', 'removed_at'],
] as const;

/** Moves the demo's clock to `now`, if it is a demo and was last set at least `afterS` seconds ago. */
export async function windDemoClock(db: Database, now: Date, afterS = 900): Promise<void> {
  await db.transaction(async (tx) => {
    const [row] = await tx.query<{ value: number }>(`select value from meta where key = 'demo clock'`);
    if (!row) return;
    const shiftS = (now.getTime() - Number(row.value)) / 1000;
    if (shiftS < afterS) return;
    for (const [table, column] of times) {
      await tx.query(`update ${table} set ${column} = ${column} + $1 * interval '1 second'`, [shiftS]);
    }
    // Days of the calendar move by whole ones.
    for (const table of ['terms', 'days_off'])
      for (const column of ['from_day', 'to_day'])
        await tx.query(
          `update ${table} set ${column} = to_char(to_date(${column}, 'YYYY-MM-DD') + $1::int, 'YYYY-MM-DD')`,
          [Math.round(shiftS / 86_400)],
        );
    await tx.query(`update meta set value = $1::jsonb where key = 'demo clock'`, [
      JSON.stringify(now.getTime()),
    ]);
  });
}
