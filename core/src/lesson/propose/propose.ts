import { found, refused, type Outcome } from '../../quantity/index.ts';
import type { Kit, RobotBuild } from '../../sensing/index.ts';
import type { Conditions } from '../../sim/index.ts';
import { needsOfLesson } from '../fit.ts';
import type { Lesson } from '../lesson.ts';
import { proposedCautions } from '../prepare.ts';
import { usualSteps, type LessonWords } from '../usualSteps.ts';
import { robotFor, type Wanted } from './robotFor.ts';

/** What a recipe gets to write with: the kit's sockets, and speeds as percentages of this robot's. */
export interface Ink {
  /** Socket of each wanted sensor, in their order. */
  sockets: string[];
  /** `sensor … is … on …`, a line for each wanted sensor. */
  declared: string;
  /** Percentage at which this robot drives so fast, mm/s. */
  pace: (mmPerS: number) => number;
  /** Turns of a wheel over a way of so many mm, one place. */
  turnsFor: (mm: number) => number;
  /** The socket of a spare motor; '' without one. */
  turret: string;
  kit: Kit;
}

type Written = Pick<Lesson, 'title' | 'aim' | 'course' | 'modelScript' | 'expectations' | 'timeLimitS'> & {
  words: LessonWords;
  skills: string[];
  read?: Lesson['read'];
  thresholds?: Record<string, number>;
  /** Runs of the proof; 50 when not said. */
  runs?: number;
  floor?: Partial<Lesson['floor']>;
  conditions?: Partial<Conditions>;
  faults: (ink: Ink) => Lesson['faults'];
};

/** One way to reach an aim with certain sensors. */
export interface Recipe {
  takes: Wanted[];
  write: (ink: Ink) => Written;
}

/** What a lesson may be for; the first recipe that a kit can do is taken. */
export interface LessonAim {
  id: string;
  /** As a teacher says it: “stop before something”. */
  name: string;
  says: string;
  recipes: Recipe[];
}

/** A start that is not quite the same each time, and a robot that is not quite straight. */
export const kindly: Conditions = {
  alongMm: [-30, 30],
  acrossMm: [-10, 10],
  bearingDeg: [-2, 2],
  lightShift: [-3, 3],
  mismatch: [-0.008, 0.008],
  noise: [0.8, 1.3],
  scrub: [-0.01, 0.01],
};

const wordsOf = (takes: readonly Wanted[]): string =>
  takes.map(({ kind }) => (kind === 'light' ? 'reflected light' : kind)).join(' and ');

/** A script begins with what it declares. */
const startOf = (modelScript: string): string =>
  `${modelScript
    .split('\n')
    .filter((line) => /^(sensor|motor) /.test(line))
    .join('\n')}\n`;

/**
 * A whole lesson for an aim and a kit: sensors, course, readings, model answer, expectations, steps, cautions.
 * `known` is a robot of the kit, where there is one: its size and usual sockets are taken. Refused, with what the
 * kit would need, when no way to the aim is open to it.
 */
export function proposeLesson(aim: LessonAim, kit: Kit, known: RobotBuild | null = null): Outcome<Lesson> {
  for (const recipe of aim.recipes) {
    const robot = robotFor(kit, recipe.takes, known);
    if (!robot) continue;
    const { build, sockets } = robot;
    const top = (Math.PI * build.wheelDiameterMm * kit.drive.topDegPerS) / 360;
    const ink: Ink = {
      sockets,
      declared: recipe.takes
        .map(({ name, kind }, i) => `sensor ${name} is ${kind} on ${sockets[i]}\n`)
        .join(''),
      pace: (mmPerS) => Math.min(100, Math.max(5, Math.round((100 * mmPerS) / top))),
      turnsFor: (mm) => Math.round((10 * mm) / (Math.PI * build.wheelDiameterMm)) / 10,
      turret:
        kit.sockets.find(({ takes, drives }) => takes === 'motor' && !/wheel/.test(drives ?? ''))?.name ?? '',
      kit,
    };
    const { words, skills, read, thresholds, floor, conditions, faults, runs, ...written } =
      recipe.write(ink);
    const needs = recipe.takes.map(({ name, kind }, i) => ({ name, kind, socket: sockets[i]! }));
    const lesson: Lesson = {
      slug: '',
      minutes: 50,
      need: needs[0]!,
      ...(needs.length > 1 ? { also: needs.slice(1) } : {}),
      read: read ?? { burst: 20, tasks: [] },
      startScript: startOf(written.modelScript),
      conditions: { ...kindly, ...conditions },
      proof: { runs: runs ?? 50, bar: 0.9, seed: 1 },
      floor: { trials: 3, landmark: '', ...floor },
      cautions: [],
      robot: { kit: kit.slug, build, thresholds: thresholds ?? {} },
      skills,
      faults: faults(ink) ?? [],
      ...written,
    };
    lesson.cautions = proposedCautions(lesson).map(({ says }) => says);
    return found({ ...lesson, steps: usualSteps(lesson, words) });
  }
  const [first] = aim.recipes;
  const ways = aim.recipes.map(({ takes }) => wordsOf(takes));
  return refused(
    `The ${kit.name} cannot “${aim.name}”: it takes ${ways.join(', or ')}${first?.takes.some(({ turret }) => turret) ? ' on a motor of its own' : ''}.`,
    'Choose another aim, or a kit that has it.',
  );
}

/** The socket names that a proposal uses, for whoever checks them against a room. */
export const socketsOf = (lesson: Lesson): string[] => needsOfLesson(lesson).map(({ socket }) => socket);
