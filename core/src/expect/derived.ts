import { insideZone, isThere, middleLine, rightAlong, type Course, type Zone } from '../course/index.ts';
import { cos, radians, sin } from '../quantity/index.ts';
import { boxSignals, REST_MM_PER_S, type Run, type Signal, type Trace } from '../sim/index.ts';
import { FAR_MM, gapAhead, roomTo } from './amongSolids.ts';
import type { Asked } from './asked.ts';
import {
  column,
  level,
  pointX,
  pointY,
  poses,
  sampled,
  wayBetween,
  type Derive,
  type Scene,
} from './columns.ts';
import { SOME } from './formula.ts';
import { swingOf } from './geometry.ts';
import { leastDistance } from './least.ts';
import { Looked, type Look } from './looked.ts';
import { numberIn, ofDisplay } from './onDisplay.ts';
import { wayUpTo } from './way.ts';

/** After a bump it may stand this long before it reverses, s. */
const AFTER_BUMP_S = 4;
/** It has gone on when it moves at least so fast, mm/s. */
const MOVING_MM_PER_S = 15;

/** A wheel may be half of this off the middle: a turn at one degree a second moves it so fast, mm/s. */
const MM_PER_DEG = (60 * Math.PI) / 180;

/** How fast it moves that goes ahead at a speed and turns at another, mm/s of the faster wheel. */
const motion = (mmPerS: number, degPerS: number): number => Math.abs(mmPerS) + MM_PER_DEG * Math.abs(degPerS);

/** How fast the robot moves, driving or turning, mm/s of its faster wheel; null when its speed is unknown. */
export function motionOf(trace: Trace, asked: Asked = 'all'): Signal | null {
  const at = motionAt(trace);
  if (!at || asked === 'end') return at && sampled(trace, 'mm/s', asked, at);
  const values = new Float32Array(trace.timesS.length);
  const [ahead, round] = [trace.signals.speed!.values, trace.signals.turning?.values];
  if (round) for (let i = 0; i < values.length; i++) values[i] = motion(ahead[i]!, round[i]!);
  else for (let i = 0; i < values.length; i++) values[i] = motion(ahead[i]!, 0);
  return { unit: 'mm/s', values };
}
function motionAt({ signals: { speed, turning } }: Trace): ((i: number) => number) | null {
  if (!speed) return null;
  const [ahead, round] = [speed.values, turning?.values];
  return (i) => motion(ahead[i]!, round ? round[i]! : 0);
}

/** Signals with a name of their own. */
const plain: Record<string, Derive> = {
  [SOME]: (trace) => level(trace, '', 0),
  motion: (trace, _, asked) => motionOf(trace, asked),
  turned: (trace, _, asked) => {
    const values = trace.signals.bearing?.values;
    return values ? sampled(trace, 'deg', asked, (i) => values[i]! - values[0]!) : null;
  },
  travelled: (trace) => {
    const [x, y] = [trace.signals.x?.values, trace.signals.y?.values];
    if (!x || !y) return null;
    let sum = 0;
    return column(trace, 'mm', (i) => {
      if (i > 0) sum += wayBetween(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
      return sum;
    });
  },
  room: roomTo(),
  'edge room': (trace, { course, outline }, asked) => {
    const p = poses(trace);
    if (!p) return null;
    const { trackMm, axleFromFrontMm, lengthMm } = outline;
    const middleMm = axleFromFrontMm - lengthMm / 2;
    const room = (i: number, ahead: number, right: number): number => {
      const [x, y] = [pointX(p, i, ahead, right), pointY(p, i, ahead, right)];
      return Math.min(x, y, course.widthMm - x, course.heightMm - y);
    };
    const look: Look = (i) => {
      p.to.look(i);
      return Math.min(room(i, 0, trackMm / 2), room(i, 0, -trackMm / 2), room(i, middleMm, 0));
    };
    if (asked === 'least') return leastDistance(wayUpTo(trace, swingOf(outline))!, 0, [0], look);
    if (asked === 'some') return new Looked(wayUpTo(trace, swingOf(outline))!, [0], look);
    return sampled(trace, 'mm', asked, (i) => look(i, Infinity, 0));
  },
  'gap ahead': gapAhead,
  /** How far it has backed away from the nearest it came to what is ahead. */
  backed: (trace, scene, asked) => {
    // At the end the least of all gaps is what counts.
    const atEnd = asked === 'end';
    const gap = signalOf('gap ahead', trace, scene, atEnd ? 'least' : 'all')?.values;
    if (!gap) return null;
    let least = Infinity;
    if (atEnd) for (let i = 0; i < gap.length; i++) if (gap[i]! < least) least = gap[i]!;
    return sampled(trace, 'mm', asked, (i) => {
      least = Math.min(least, gap[i]!);
      return gap[i]! - least;
    });
  },
  'running for': (trace, scene) => {
    const end = trace.timesS.at(-1)!;
    return trace.timesS.length > 1 ? level(trace, 's', scene.programOverS ?? end) : null;
  },
  /** How far it still went after its program was over, mm; nothing while the program goes on. */
  'rolled on': (trace, scene) => {
    const [x, y] = [trace.signals.x?.values, trace.signals.y?.values];
    if (!x || !y || trace.timesS.length < 2) return null;
    const over = scene.programOverS;
    if (over === null) return level(trace, 'mm', 0);
    const from = Math.max(
      0,
      trace.timesS.findIndex((t) => t >= over),
    );
    return column(trace, 'mm', (i) => (i <= from ? 0 : wayBetween(x[i]! - x[from]!, y[i]! - y[from]!)));
  },
  'number shown': (trace, scene) =>
    scene.events.some(({ kind }) => kind === 'display')
      ? ofDisplay(trace, scene, NaN, (text) => numberIn(text) ?? NaN)
      : null,
  /** 1 while anything is shown, else −1. */
  display: (trace, scene) => ofDisplay(trace, scene, -1, (text) => (text.trim() === '' ? -1 : 1)),
  /** Bumps so far: presses of a forward bumper while driving ahead. */
  bumps: (trace, { bumpers }) => {
    const pressed = bumpers.flatMap((socket) => trace.signals[socket]?.values ?? []);
    if (pressed.length === 0) return null;
    const speed = trace.signals.speed?.values;
    let n = 0;
    return column(trace, '', (i) => {
      // Whoever is touched while standing or turning has not bumped into anything.
      if (i === 0 || (speed && speed[i]! < 5)) return n;
      if (pressed.some((values) => values[i]! > 0 && !(values[i - 1]! > 0))) n++;
      return n;
    });
  },
  /** The shortest way back after any bump, mm: how far it drove in reverse before it drove on. */
  'backs off': (trace, scene) => {
    const bumps = signalOf('bumps', trace, scene)?.values;
    const speed = trace.signals.speed?.values;
    if (!bumps || !speed) return null;
    const { timesS } = trace;
    let least = Infinity;
    for (let i = 1; i < bumps.length; i++) {
      if (bumps[i] === bumps[i - 1]) continue;
      // A bump so near the end that there was no time for it says nothing.
      if (timesS.at(-1)! - timesS[i]! < AFTER_BUMP_S) continue;
      let [far, j] = [0, i];
      while (j < bumps.length - 1 && bumps[j] === bumps[i]) {
        if (speed[j]! < 0) far -= speed[j]! * (timesS[j + 1]! - timesS[j]!);
        else if (far > 10 && speed[j]! > 0) break;
        j++;
      }
      least = Math.min(least, far);
    }
    return least === Infinity ? null : level(trace, 'mm', least);
  },
};

/** How deep inside a zone the point lies that two signals tell, mm; negative outside. */
function insideOf(
  zone: Zone | undefined,
  trace: Trace,
  xSignal: string,
  ySignal: string,
  asked: Asked,
): Signal | null {
  const [x, y] = [trace.signals[xSignal]?.values, trace.signals[ySignal]?.values];
  return zone && x && y ? sampled(trace, 'mm', asked, (i) => insideZone(zone, x[i]!, y[i]!)) : null;
}

/** Signals named after something on the course. */
const named: [prefix: string, derive: (id: string) => Derive][] = [
  [
    'past ',
    (id) => (trace, scene, asked) => {
      const landmark = scene.course.landmarks.find((l) => l.id === id);
      const p = poses(trace);
      if (!landmark || !p) return null;
      const along = radians(landmark.bearingDeg);
      const [dx, dy] = [sin(along), cos(along)];
      return sampled(trace, 'mm', asked, (i) => {
        const { aheadMm, rightMm } = scene.watcher;
        p.to.look(i);
        const [x, y] = [pointX(p, i, aheadMm, rightMm), pointY(p, i, aheadMm, rightMm)];
        return (x - landmark.xMm) * dx + (y - landmark.yMm) * dy;
      });
    },
  ],
  [
    'off ',
    (id) => (trace, scene) => {
      const track = scene.course.tracks?.find((t) => t.id === id);
      const mark = track && scene.course.marks[track.mark];
      const line = mark && middleLine(mark);
      const p = poses(trace);
      if (!track || !line || !p || !('widthMm' in mark)) return null;
      const edge = ((track.side === 'right' ? 1 : -1) * mark.widthMm) / 2;
      const { aheadMm, rightMm } = scene.watcher;
      const right = rightAlong(line);
      return column(trace, 'mm', (i) => {
        p.to.look(i);
        return Math.abs(right(pointX(p, i, aheadMm, rightMm), pointY(p, i, aheadMm, rightMm)) - edge);
      });
    },
  ],
  [
    'in ',
    (id) => (trace, scene, asked) => {
      const zone = scene.course.zones?.find((z) => z.id === id);
      return insideOf(zone, trace, 'x', 'y', asked);
    },
  ],
  [
    'opponent in ',
    (id) => (trace, scene, asked) => {
      const zone = scene.course.zones?.find((z) => z.id === id);
      return insideOf(zone, trace, 'opponent x', 'opponent y', asked);
    },
  ],
  [
    'box ',
    // “box crate in harbour”: how deep the middle of a light box is inside a zone, mm.
    (words) => (trace, scene, asked) => {
      const [id = '', place] = words.split(' in ');
      const zone = scene.course.zones?.find((z) => z.id === place);
      const [x, y] = boxSignals(id);
      return insideOf(zone, trace, x, y, asked);
    },
  ],
  [
    'room to ',
    (id) => (trace, scene, asked) => {
      const index = scene.course.boxes?.findIndex((box) => box.id === id) ?? -1;
      return index < 0 ? null : roomTo(({ box }) => box === index)(trace, scene, asked);
    },
  ],
  [
    'goes on after ',
    (id) => (trace, scene) => {
      const box = scene.course.boxes?.find((b) => b.id === id);
      const speed = trace.signals.speed?.values;
      const leaves = box?.stays?.at(-1)?.toS;
      if (!speed || leaves === undefined || leaves === null) return null;
      const left = leaves + scene.laterS;
      const end = trace.timesS.at(-1)!;
      if (left >= end) return null;
      const on = trace.timesS.findIndex((t, i) => t >= left && speed[i]! > MOVING_MM_PER_S);
      return level(trace, 's', on < 0 ? FAR_MM : trace.timesS[on]! - left);
    },
  ],
  [
    'shows ',
    (text) => (trace, scene) => {
      const wanted = text.toLowerCase();
      return ofDisplay(trace, scene, -1, (shown) => (shown.toLowerCase().includes(wanted) ? 1 : -1));
    },
  ],
];

/** How near in time a shown number and a reading belong together, s: one look of a fast sensor. */
const SAME_MOMENT_S = 0.025;
/** No number is so far off: what is told while none is shown. */
const NO_NUMBER = 1e6;

/** What stands before the name of a signal in that of “the number shown, less it”. */
export const SHOWN_LESS = 'shown less ';

/** How far the number shown is off a signal, as that was at the moment of showing; far off while no number is shown. */
const shownLess =
  (name: string): Derive =>
  (trace, scene) => {
    const values = signalOf(name, trace, scene)?.values;
    if (!values) return null;
    return ofDisplay(trace, scene, NO_NUMBER, (text, atS) => {
      const shown = numberIn(text);
      let off = NO_NUMBER;
      for (let k = 0; k < values.length && shown !== null; k++) {
        if (Math.abs(trace.timesS[k]! - atS) > SAME_MOMENT_S) continue;
        if (Math.abs(shown - values[k]!) < Math.abs(off)) off = shown - values[k]!;
      }
      return off;
    });
  };

const there =
  (id: string): Derive =>
  (trace, { course, laterS }) => {
    const box = course.boxes?.find((b) => b.id === id);
    return box ? column(trace, '', (i) => (isThere(box.stays, trace.timesS[i]! - laterS) ? 1 : -1)) : null;
  };

/** A signal of a trace by name, worked out as far as it is asked for where the trace does not hold it; null when it cannot be. */
export function signalOf(name: string, trace: Trace, scene: Scene, asked: Asked = 'all'): Signal | null {
  // Names come from people: “constructor” is no signal.
  if (Object.hasOwn(trace.signals, name)) return trace.signals[name]!;
  if (trace.timesS.length === 0) return null;
  const own = Object.hasOwn(plain, name) ? plain[name] : undefined;
  if (own) return own(trace, scene, asked);
  if (name.startsWith('shown less ')) return shownLess(name.slice('shown less '.length))(trace, scene, asked);
  if (name.endsWith(' there')) return there(name.slice(0, -' there'.length))(trace, scene, asked);
  const found = named.find(([prefix]) => name.startsWith(prefix));
  return found ? found[1](name.slice(found[0].length))(trace, scene, asked) : null;
}

/** The trace with the wanted signals added, as far as they can be worked out; all of each, or what is asked of it. */
export function withSignals(
  trace: Trace,
  scene: Scene,
  names: Iterable<string> | Iterable<readonly [name: string, asked: Asked]>,
): Trace {
  const signals = { ...trace.signals };
  const known = { ...trace, signals };
  for (const one of names) {
    const [name, asked] = typeof one === 'string' ? [one, 'all' as const] : one;
    const signal = signalOf(name, known, scene, asked);
    if (signal) signals[name] = signal;
  }
  return known;
}

/** Whether nothing will change any more once the record of a run has ended: its program is over, it rests, and no box comes or goes. */
export function lastsAfter({ trace, ended, programOverS }: Run, course: Course, laterS: number): boolean {
  const end = trace.timesS.at(-1) ?? 0;
  return (
    ended.how === 'at rest' &&
    programOverS !== null &&
    !course.opponent &&
    (course.boxes ?? []).every(
      ({ stays, moves }) =>
        !moves &&
        (stays ?? []).every(({ fromS, toS }) => fromS + laterS <= end && (toS ?? 0) + laterS <= end),
    )
  );
}

/** The scene of a simulated run. */
export const sceneOf = (
  run: Run,
  scene: Pick<Scene, 'course' | 'watcher' | 'outline' | 'laterS' | 'bumpers'>,
): Scene => ({ ...scene, events: run.events, programOverS: run.programOverS });

/** When the robot came to its last rest, s; null when it was still moving at the end or its speed is unknown. */
export function restTime(trace: Trace): number | null {
  const motionThen = motionAt(trace);
  const n = trace.timesS.length;
  if (!motionThen || n === 0) return null;
  let i = n;
  while (i > 0 && Math.fround(motionThen(i - 1)) <= REST_MM_PER_S) i--;
  return i === n ? null : trace.timesS[i]!;
}
