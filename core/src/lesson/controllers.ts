import { buildCourse, familyOf } from '../course/index.ts';
import {
  criticalOfFollower,
  pointsPerMm,
  topSpeedMmPerS,
  turnPerSteering,
  type Critical,
} from '../motion/index.ts';
import { formatNumber } from '../quantity/index.ts';
import { bySocket, fittingOn, sensorOf } from '../sensing/index.ts';
import { canRun, parseScript } from '../script/index.ts';
import {
  criticalBySweep,
  ruleGains,
  swingOf,
  type Controller,
  type ControllerGains,
  type Results,
  type Swing,
} from '../tuning/index.ts';
import type { Lesson } from './lesson.ts';
import { rehearse, tryCircumstances } from './rehearsal.ts';
import { simRobot, type KnownRobot } from './simRobot.ts';
import { resultsOfRun } from './tuned.ts';

/** How often a follower’s loop goes round, s: the same for all, so that only what they do differs. */
export const ROUND_S = 0.06;

/** The loop that a follower of an edge is: how late, how steep, how far ahead. */
export interface FollowLoop {
  delayS: number;
  lagS: number;
  speedMmPerS: number;
  aheadMm: number;
  /** Points per millimetre at the edge. */
  slope: number;
  /** rad/s per percent of steering. */
  turn: number;
  /** Steering, %, per point off, at which it just keeps swinging, and the period, s; null where no gain holds it. */
  critical: Critical | null;
  working: string[];
}

const show = (value: number, digits = 3): string => formatNumber(value, digits);

/**
 * The loop of a robot that follows an edge with the lesson’s light sensor at a speed, % of full: the parts of its delay are half a look
 * of the sensor, half a round of the program and what the command takes. Null where the lesson’s sensor does not see light.
 */
export function followLoop(lesson: Lesson, known: KnownRobot, speedPercent: number): FollowLoop | null {
  const { kit, build } = known;
  const fitting = fittingOn(build, lesson.need.socket);
  const spec = fitting && sensorOf(kit, fitting);
  const sensor = simRobot(known, lesson).sensors.find(({ socket }) => socket === fitting?.socket);
  const [mark] = lesson.course.marks;
  if (!fitting || spec?.kind !== 'light' || sensor?.kind !== 'light' || !mark) return null;
  const contrast =
    100 * sensor.model.gain * Math.abs(lesson.course.base.reflectance - mark.surface.reflectance);
  const radius = sensor.model.footprintRadiusMm;
  const slope = pointsPerMm(contrast, radius);
  const drive = { ...kit.drive, ...known.braking };
  const speedMmPerS = (topSpeedMmPerS(drive.topDegPerS, build.wheelDiameterMm) * speedPercent) / 100;
  const turn = turnPerSteering(speedMmPerS, build.trackMm);
  const lookS = spec.samplePeriodMs / 1000;
  const delayS = lookS / 2 + ROUND_S / 2 + drive.commandDelayMs / 1000;
  const lagS = drive.tauDriveS;
  const found = criticalOfFollower({ delayS, lagS, speedMmPerS, aheadMm: fitting.aheadMm });
  const critical = found && { gain: found.gain / (slope * turn), periodS: found.periodS };
  return {
    delayS,
    lagS,
    speedMmPerS,
    aheadMm: fitting.aheadMm,
    slope,
    turn,
    critical,
    working: [
      `slope at the edge: 2 × ${show(contrast, 0)} ÷ (π × ${show(radius, 1)} mm) = ${show(slope, 1)} points per mm`,
      `turning: 2 × ${show(speedMmPerS, 0)} mm/s ÷ (100 × ${show(build.trackMm, 0)} mm) = ${show(turn, 4)} rad/s per % of steering`,
      `delay: ${show(1000 * lookS, 0)} ÷ 2 + ${show(1000 * ROUND_S, 0)} ÷ 2 + ${show(drive.commandDelayMs, 0)} = ${show(1000 * delayS, 0)} ms; motors ${show(1000 * lagS, 0)} ms; sensor ${show(fitting.aheadMm, 0)} mm ahead`,
      critical
        ? `just swinging at gain ${show(critical.gain, 2)}, once in ${show(critical.periodS, 2)} s`
        : 'the sensor looks less far ahead than the loop is late: no gain holds this speed',
    ],
  };
}

/** A number as a script may hold it. */
const written = (value: number): string => String(Number(value.toPrecision(3)));

/** The lines of a follower of each kind, with its numbers; `headLine` begins the loop, `tail` comes after it. */
export function controllerScript(
  kind: Controller | 'two-state',
  gains: Pick<ControllerGains, 'gain' | 'resetS' | 'rateS'>,
  {
    declared,
    sensor,
    headLine,
    tail,
    speed,
    stepTimeS,
  }: {
    declared: string[];
    sensor: string;
    headLine: string;
    tail: string[];
    speed: number;
    stepTimeS: number;
  },
): string {
  const { gain, resetS, rateS } = gains;
  const off = `${sensor} - threshold`;
  // What the steps of a round take themselves is taken off its wait.
  const wait = (steps: number) => `  wait ${written(Math.max(0.005, ROUND_S - steps * stepTimeS))} s`;
  if (kind === 'two-state')
    return [
      ...declared,
      headLine,
      `  if ${sensor} > threshold`,
      `    wheels ${written(1.3 * speed)} % and ${written(0.7 * speed)} %`,
      '  else',
      `    wheels ${written(0.7 * speed)} % and ${written(1.3 * speed)} %`,
      '  end',
      wait(3),
      'end',
      ...tail,
    ].join('\n');
  if (kind === 'P')
    return [
      ...declared,
      headLine,
      `  steer ${written(gain)} * (${off}) at ${written(speed)} %`,
      wait(2),
      'end',
      ...tail,
    ].join('\n');
  const terms = [`${written(gain)} * off`];
  if (resetS !== null) terms.push(`${written(gain / resetS)} * sum`);
  if (rateS !== null) terms.push(`${written((gain * rateS) / ROUND_S)} * (off - before)`);
  return [
    ...declared,
    'let off = 0 %',
    ...(rateS === null ? [] : ['let before = 0 %']),
    ...(resetS === null ? [] : ['let sum = 0 %']),
    headLine,
    `  set off to ${off}`,
    // A sum without ends would still steer when the edge has long been found again.
    ...(resetS === null ? [] : [`  set sum to clamp(sum + ${written(ROUND_S)} * off, -20, 20)`]),
    `  steer ${terms.join(' + ')} at ${written(speed)} %`,
    ...(rateS === null ? [] : ['  set before to off']),
    wait(2 + (resetS === null ? 0 : 1) + 1 + (rateS === null ? 0 : 1)),
    'end',
    ...tail,
  ].join('\n');
}

/** Part of a lesson’s follower that stays whatever steers: its sensors, the head of its loop, and what comes after. Null where it is none. */
export function followerParts({ modelScript, need }: Lesson): {
  declared: string[];
  sensor: string;
  headLine: string;
  tail: string[];
} | null {
  const lines = modelScript.split('\n').filter((line) => line.trim() !== '');
  const declared = lines.filter((line) => /^sensor /.test(line));
  const head = lines.findIndex((line) => /^repeat\b/.test(line));
  const end = lines.findIndex((line, i) => i > head && line === 'end');
  const steers = lines.slice(head + 1, end).every((line) => /^\s+steer\b/.test(line));
  const sensor = parseScript(modelScript).sensors.find(({ socket }) => socket === need.socket)?.name;
  if (head < 0 || end < 0 || !steers || sensor === undefined) return null;
  return { declared, sensor, headLine: lines[head]!, tail: lines.slice(end + 1) };
}

/** A straight edge, long enough for many swings, with the surfaces of the lesson. */
function straightOf(lesson: Lesson): Lesson {
  const course = buildCourse(familyOf('fairway'), { lengthMm: 2400 });
  const [mark] = lesson.course.marks;
  const marks = course.marks.slice(0, 1).map((one) => ({ ...one, surface: mark?.surface ?? one.surface }));
  return {
    ...lesson,
    course: { ...course, base: lesson.course.base, marks, boxes: [], zones: [] },
    expectations: [],
    timeLimitS: 40,
  };
}

/** Less than this share of the contrast is the sensor’s own step, no swing. */
const LEAST_SWING = 0.15;

/**
 * How a follower with a gain swings along a straight edge, on this robot without noise: `null` where it does not. The first third of
 * the way is left out: there it finds the edge.
 */
export function followerSwing(
  lesson: Lesson,
  known: KnownRobot,
  speedPercent: number,
  loop: FollowLoop,
): (gain: number) => Swing | null {
  const straight = straightOf(lesson);
  const socket = lesson.need.socket;
  const threshold = bySocket(known.thresholds, socket) ?? 50;
  const stepTimeS = known.kit.stepTimeMs / 1000;
  const least = LEAST_SWING * loop.slope * Math.PI;
  return (gain) => {
    const text = controllerScript(
      'P',
      { gain, resetS: null, rateS: null },
      {
        declared: [`sensor floor is light on ${socket}`],
        sensor: 'floor',
        headLine: 'repeat',
        tail: [],
        speed: speedPercent,
        stepTimeS,
      },
    );
    const calm = { ...tryCircumstances(straight, 'A', 1), noise: 0 };
    const { evidence } = rehearse(straight, known, parseScript(text), calm);
    const values = evidence.signals[socket]?.values;
    if (!values || evidence.timesS.length < 3) return null;
    const everyS = evidence.timesS[1]! - evidence.timesS[0]!;
    const to = Math.min(values.length, Math.round(2000 / loop.speedMmPerS / everyS));
    const swing = swingOf(values.slice(Math.round(to / 3), to), everyS, threshold);
    return swing && swing.amplitude >= least && swing.growth > 0.98 ? { ...swing, growth: 1 } : null;
  };
}

/** The critical gain and period as runs find them; null where none up to ten times the formula’s swings. */
export const criticalByRuns = (
  lesson: Lesson,
  known: KnownRobot,
  speedPercent: number,
  loop: FollowLoop,
): Critical | null => {
  const about = loop.critical?.gain ?? 1;
  return criticalBySweep(followerSwing(lesson, known, speedPercent, loop), about / 2, 10 * about);
};

/** One follower of the worked page: its script, its numbers, and how it did on the lesson’s course. */
export interface WorkedFollower {
  kind: Controller | 'two-state';
  /** Null for two states: they have no gain. */
  gains: ControllerGains | null;
  text: string;
  results: Results;
  kept: boolean;
  /** What it was off, points, every so many s. */
  off: { everyS: number; values: Float32Array };
}

/** The same course with two states, in proportion, with the rate, with the sum: what more does. */
export interface WorkedPage {
  loop: FollowLoop;
  /** Found by runs on a straight edge; null where nothing swings. */
  found: Critical | null;
  followers: WorkedFollower[];
}

/**
 * The worked page of a follower’s lesson at a speed, % of full. Null where the lesson is none: its model answer must be a loop that steers
 * by a light sensor.
 */
export function workedPage(lesson: Lesson, known: KnownRobot, speedPercent: number): WorkedPage | null {
  const loop = followLoop(lesson, known, speedPercent);
  const parts = followerParts(lesson);
  if (!loop || !parts) return null;
  const found = criticalByRuns(lesson, known, speedPercent, loop);
  const critical = found ?? loop.critical;
  const threshold = bySocket(known.thresholds, lesson.need.socket) ?? 50;
  const kinds = critical ? (['two-state', 'P', 'PD', 'PID'] as const) : (['two-state'] as const);
  const followers = kinds.flatMap((kind): WorkedFollower[] => {
    const gains = kind === 'two-state' || !critical ? null : ruleGains(kind, critical);
    const text = controllerScript(kind, gains ?? { gain: 0, resetS: null, rateS: null }, {
      ...parts,
      speed: speedPercent,
      stepTimeS: known.kit.stepTimeMs / 1000,
    });
    const program = parseScript(text);
    if (!canRun(program)) return [];
    const [start] = lesson.course.starts;
    const rehearsal = rehearse(lesson, known, program, tryCircumstances(lesson, start!.name, 1));
    const { signals, timesS } = rehearsal.evidence;
    const readings = signals[lesson.need.socket]?.values ?? new Float32Array();
    return [
      {
        kind,
        gains,
        text,
        results: resultsOfRun(lesson, rehearsal),
        kept: rehearsal.judgements.every(({ verdict }) => verdict === 'holds'),
        off: {
          everyS: (timesS[1] ?? 1) - (timesS[0] ?? 0),
          values: readings.map((value) => value - threshold),
        },
      },
    ];
  });
  return { loop, found, followers };
}
