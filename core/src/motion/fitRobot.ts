import { found, refused, type Outcome } from '../quantity/index.ts';
import type { DriveSpec } from '../sensing/index.ts';
import { accelLimitOf, beyondLag, type StopAt } from './fitLimit.ts';
import { throughOrigin, twoTerms, type Estimate } from './interval.ts';

/** One trial by which a robot is measured: what the program said, and what tape, protractor or eye found. */
export type RobotTrial =
  /** `drive p % for t s`, then `stop`: the way by tape, and how far it ended to the right of straight on, if that was measured. */
  | { kind: 'way'; speedPercent: number; seconds: number; wentMm: number; asideMm: number | null }
  /** `turn right a deg`, by wheels; the track is what the program counted with. */
  | { kind: 'turn'; askedDeg: number; turnedDeg: number; trackMm: number }
  /** Driving until a sensor sees something, then `stop`: how far the sensor ended past it. */
  | { kind: 'stop'; speedPercent: number; pastMm: number; samplePeriodMs: number }
  /** `drive p %`: whether it moved at all. */
  | { kind: 'creep'; speedPercent: number; moved: boolean };

export type RobotTrialKind = RobotTrial['kind'];

/** What is known of the robot beforehand. Lengths in mm. */
export interface FitInput {
  trials: readonly RobotTrial[];
  drive: DriveSpec;
  stepTimeMs: number;
  trackMm: number;
  /** Speed at 100 % by the kit, mm/s: stops are told by it until ways tell better. */
  kitTopMmPerS: number;
}

/** Everything that trials can say about how a robot moves; each number apart, or why it cannot be told. */
export interface RobotFit {
  /** Speed at 100 %, mm/s. */
  topMmPerS: Outcome<Estimate>;
  /** How much faster the left wheel runs than the right, as a share. */
  mismatch: Outcome<Estimate>;
  /** Track as it works on this floor, mm. */
  trackMm: Outcome<Estimate>;
  /** Speeds below this do not move it, %. */
  deadPercent: Outcome<Estimate>;
  /** From the thing passing to standing still, s, as long as the wheels can follow: the stopping distance over the speed. */
  stopsAfterS: Outcome<Estimate>;
  /** Time constant of braking, s. */
  tauBrakeS: Outcome<Estimate>;
  /** From the command to the motor, s. */
  commandDelayS: Outcome<Estimate>;
  /** The most that its wheels gain or lose, mm/s in a second. */
  accelLimitMmPerS2: Outcome<Estimate>;
}

/** Fewer trials of a kind say nothing about how well they agree. */
export const LEAST_TRIALS = 3;
/** The longest must be so many times the shortest, to tell what does not grow with it. */
const APART = 2;
/** A number whose interval is wider than this share of it is no measurement. */
const WIDEST = 0.5;
/** Tape and protractor are read to a whole mm and degree: what rounding hides, though readings be all alike (1/√12). */
const READ_SD = Math.sqrt(1 / 12);
/** Rounds of taking out of the ways what the limit of the wheels does. */
const WAY_ROUNDS = 12;
/** Rounds of telling the limit by the braking and the braking by the limit. */
const LIMIT_ROUNDS = 6;
/** Shorter drives are all run-up and braking, s. */
export const SHORTEST_WAY_S = 0.5;

type Way = Extract<RobotTrial, { kind: 'way' }>;
const of = <K extends RobotTrialKind>(trials: readonly RobotTrial[], kind: K) =>
  trials.filter((trial): trial is Extract<RobotTrial, { kind: K }> => trial.kind === kind);

const tooFew = (what: string, n: number): Outcome<never> =>
  refused(
    n === 0
      ? `No ${what} has been logged.`
      : `${n === 1 ? 'One' : 'Two'} ${what}${n === 1 ? '' : 's'} cannot tell how well they agree.`,
    n === 0 ? `Log ${LEAST_TRIALS}.` : `Log ${LEAST_TRIALS - n} more.`,
  );

const apart = (values: readonly number[]): boolean =>
  values.length > 0 && Math.max(...values) >= APART * Math.min(...values);

/** A positive number that is known well enough, else why it is not. */
function sure(what: string, one: Estimate, mend: string): Outcome<Estimate> {
  if (!(one.value > 0) || !Number.isFinite(one.value))
    return refused(
      `The trials do not fit any robot: ${what} comes out at nothing or less.`,
      'Check what was measured from where.',
    );
  if (one.high - one.low > 2 * WIDEST * one.value)
    return refused(`The trials differ too much to tell ${what}.`, mend);
  return found(one);
}

interface WaysFit {
  top: Outcome<Estimate>;
  brake: Outcome<Estimate>;
}

/**
 * Way of a timed drive: v·(t + τ_brake − τ_drive), for first-order lags that have settled (integrals of v·(1 − e^(−t/τ)) and of
 * v·e^(−t/τ)); the command's delay shifts begin and end alike. Ways of different length tell v and the lags apart. What the limit
 * of the wheels adds to the braking and takes from the run-up is worked out with what was found before, and the fit done again.
 */
function fitWays(ways: readonly Way[], drive: DriveSpec, kitTop: number, limit: number): WaysFit {
  let [top, tauBrakeS] = [kitTop, drive.tauBrakeS];
  const straight = (way: Way) => {
    const v = (top * way.speedPercent) / 100;
    return bow(way) - beyondLag(v, tauBrakeS, limit) + beyondLag(v, drive.tauDriveS, limit);
  };
  let fit = fitStraightWays(ways, drive, straight);
  for (let round = 0; round < WAY_ROUNDS && limit < Infinity; round++) {
    if (fit.top.ok) top = fit.top.value.value;
    if (fit.brake.ok) tauBrakeS = fit.brake.value.value;
    fit = fitStraightWays(ways, drive, straight);
  }
  return fit;
}

function fitStraightWays(ways: readonly Way[], drive: DriveSpec, wayOf: (way: Way) => number): WaysFit {
  const least: Outcome<Estimate> = refused(
    'Ways of one length cannot tell run-up and braking from speed.',
    `Log ways of which the longest takes ${APART} times as long as the shortest, or more.`,
  );
  if (ways.length < LEAST_TRIALS)
    return { top: tooFew('timed way', ways.length), brake: tooFew('timed way', ways.length) };
  const both =
    apart(ways.map(({ seconds }) => seconds)) && ways.length > LEAST_TRIALS
      ? twoTerms(
          ways.map((way) => ({
            p: (way.speedPercent / 100) * way.seconds,
            q: way.speedPercent / 100,
            y: wayOf(way),
          })),
          READ_SD,
        )
      : null;
  if (!both) {
    const lag = drive.tauBrakeS - drive.tauDriveS;
    const points = ways.map((way) => [(way.speedPercent / 100) * (way.seconds + lag), wayOf(way)] as const);
    return {
      top: sure('its speed', throughOrigin(points, READ_SD), 'Log more ways, the longer the better.'),
      brake: least,
    };
  }
  const scale = 1 / both.a.value;
  const { value, low, high, trials } = both.b;
  const tau: Estimate = {
    value: drive.tauDriveS + value * scale,
    low: drive.tauDriveS + low * scale,
    high: drive.tauDriveS + high * scale,
    trials,
  };
  return {
    top: sure('its speed', both.a, 'Log more ways, the longer the better.'),
    brake: sure('its braking', tau, 'Log more ways, short and long, at a fast speed.'),
  };
}

/** The way along the bow that a robot drove which ended aside of straight on, mm (an arc by its chord and height, first term). */
const bow = ({ wentMm, asideMm }: Way): number => wentMm * (1 + (2 / 3) * ((asideMm ?? 0) / wentMm) ** 2);

/** Aside by m·L²/(2W) after a way L, for wheels that differ by the share m on a track W (small angles). */
function fitMismatch(ways: readonly Way[], trackMm: number): Outcome<Estimate> {
  const told = ways.flatMap(({ wentMm, asideMm }) =>
    asideMm === null ? [] : [[wentMm ** 2 / (2 * trackMm), asideMm] as const],
  );
  if (told.length < LEAST_TRIALS) return tooFew('way with its drift to the side', told.length);
  const one = throughOrigin(told, READ_SD);
  if (one.low <= 0 && one.high >= 0) {
    const most = (100 * Math.max(-one.low, one.high)).toFixed(2);
    return refused(
      `It drives straight as far as these trials can tell: its wheels differ by less than ${most} %.`,
      'Longer ways tell more.',
    );
  }
  return found(one);
}

/** A turn by wheels is asked × program's track ÷ real track. */
function fitTrack(turns: readonly Extract<RobotTrial, { kind: 'turn' }>[]): Outcome<Estimate> {
  if (turns.length < LEAST_TRIALS) return tooFew('known turn', turns.length);
  return sure(
    'its track',
    throughOrigin(
      turns.map(
        ({ askedDeg, turnedDeg, trackMm }) => [Math.abs(turnedDeg), Math.abs(askedDeg) * trackMm] as const,
      ),
      // A degree of the protractor, in the same product.
      READ_SD * Math.max(...turns.map((turn) => turn.trackMm)),
    ),
    'Log more turns, two or three times round each.',
  );
}

/**
 * The speed that splits what moved from what did not with the fewest on the wrong side; the interval reaches from the fastest
 * that stood below it to the slowest that moved above it, further where they overlap.
 */
function fitDead(creeps: readonly Extract<RobotTrial, { kind: 'creep' }>[]): Outcome<Estimate> {
  const moved = creeps.filter((one) => one.moved).map(({ speedPercent }) => speedPercent);
  const stood = creeps.filter((one) => !one.moved).map(({ speedPercent }) => speedPercent);
  if (moved.length === 0 || stood.length === 0)
    return refused(
      creeps.length === 0
        ? 'No least speed has been logged.'
        : moved.length === 0
          ? 'It never moved.'
          : 'It always moved.',
      moved.length === 0 && creeps.length > 0
        ? 'Log a faster speed as well, one at which it moves.'
        : 'Log the slowest speed that moves it, and one that does not.',
    );
  const speeds = [...new Set([0, ...moved, ...stood])].sort((a, b) => a - b);
  const cuts = speeds.slice(1).map((speed, i) => ({ low: speeds[i]!, high: speed }));
  const wrong = ({ low }: { low: number }) =>
    moved.filter((speed) => speed <= low).length + stood.filter((speed) => speed > low).length;
  const fewest = Math.min(...cuts.map(wrong));
  if (fewest > creeps.length / 4)
    return refused(
      'It moved at speeds at which it stood before.',
      'Charge it, set it on one kind of floor, and log again.',
    );
  const best = cuts.filter((cut) => wrong(cut) === fewest);
  const [low, high] = [best[0]!.low, best.at(-1)!.high];
  if (high - low > WIDEST * high)
    return refused(`It lies somewhere between ${low} and ${high} %.`, 'Log speeds in between.');
  return found({
    value: (low + high) / 2,
    low: Math.min(low, ...moved),
    high: Math.max(high, ...stood),
    trials: creeps.length,
  });
}

/** Mean period of the sensors that stops were seen by, s; 0 where there are none. */
export function meanLookS(trials: readonly RobotTrial[]): number {
  const stops = of(trials, 'stop');
  return (
    stops.reduce((sum, { samplePeriodMs }) => sum + samplePeriodMs / 1000, 0) / Math.max(1, stops.length)
  );
}

/** What trials say of a robot, number by number. Trials that say nothing (no way, no speed) are left out. */
export function fitRobot({ trials, drive, stepTimeMs, trackMm, kitTopMmPerS }: FitInput): RobotFit {
  const ways = of(trials, 'way').filter(
    ({ speedPercent, seconds, wentMm }) => speedPercent > 0 && seconds >= SHORTEST_WAY_S && wentMm > 0,
  );
  const turns = of(trials, 'turn').filter(({ askedDeg, turnedDeg }) => askedDeg !== 0 && turnedDeg !== 0);
  const stops = of(trials, 'stop').filter(({ speedPercent, pastMm }) => speedPercent > 0 && pastMm > 0);
  const stopsBy = (top: Outcome<Estimate>): StopAt[] => {
    const speed = (top.ok ? top.value.value : kitTopMmPerS) / 100;
    return stops.map(({ speedPercent, pastMm }) => ({ speedMmPerS: speed * speedPercent, pastMm }));
  };
  const before = meanLookS(stops) / 2 + (1.5 * stepTimeMs) / 1000;
  let limit = drive.accelLimitMmPerS2 ?? Infinity;
  let { top, brake } = fitWays(ways, drive, kitTopMmPerS, limit);
  let accelLimit: Outcome<Estimate> = tooFew('stop', stops.length);
  for (let round = 0; round < LIMIT_ROUNDS && stops.length >= LEAST_TRIALS; round++) {
    accelLimit = accelLimitOf(stopsBy(top), brake.ok ? brake.value.value : drive.tauBrakeS, READ_SD);
    if (!accelLimit.ok) break;
    limit = accelLimit.value.value;
    ({ top, brake } = fitWays(ways, drive, kitTopMmPerS, limit));
  }
  const track = fitTrack(turns);
  const mismatch = fitMismatch(ways, track.ok ? track.value.value : trackMm);
  const stopsAfter = ((): Outcome<Estimate> => {
    if (stops.length < LEAST_TRIALS) return tooFew('stop', stops.length);
    const points = stopsBy(top);
    // Without ways, τ is what the stops leave for it; what the limit adds to a stop depends on it again.
    let tau = brake.ok ? brake.value.value : drive.tauBrakeS;
    const slopeAt = () =>
      throughOrigin(
        points.map(({ speedMmPerS: v, pastMm }) => [v, pastMm - beyondLag(v, tau, limit)] as const),
        READ_SD,
      );
    for (let round = 0; round < WAY_ROUNDS && !brake.ok; round++)
      tau = Math.max(0, slopeAt().value - before - drive.commandDelayMs / 1000);
    return sure('how it stops', slopeAt(), 'Log more stops, at a fast speed.');
  })();
  const delay = ((): Outcome<Estimate> => {
    if (!stopsAfter.ok) return stopsAfter;
    if (!brake.ok)
      return refused(
        'Stops alone cannot tell the delay from the braking: both grow with the speed alike.',
        'Log timed ways, short and long.',
      );
    const value = stopsAfter.value.value - before - brake.value.value;
    // Both are uncertain, independently of each other.
    const half = Math.hypot(
      stopsAfter.value.high - stopsAfter.value.value,
      brake.value.high - brake.value.value,
    );
    if (value + half < 0)
      return refused(
        'It stops sooner than its looks and its braking allow.',
        'Check what the stops were measured from.',
      );
    const kept = Math.max(0, value);
    return found({ value: kept, low: Math.max(0, value - half), high: value + half, trials: stops.length });
  })();
  return {
    topMmPerS: top,
    mismatch,
    trackMm: track,
    deadPercent: fitDead(of(trials, 'creep').filter(({ speedPercent }) => speedPercent > 0)),
    stopsAfterS: stopsAfter,
    tauBrakeS: brake,
    commandDelayS: delay,
    accelLimitMmPerS2: accelLimit,
  };
}
