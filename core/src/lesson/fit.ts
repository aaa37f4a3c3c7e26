import { sensorWords, type Kit, type SensorKind, type SensorNeed } from '../sensing/index.ts';
import type { Lesson } from './lesson.ts';

/** What can stand in for a kind of sensor, best first, and what it costs the lesson (common practice). */
const substitutes: Partial<Record<SensorKind, readonly (readonly [SensorKind, string])[]>> = {
  distance: [
    [
      'proximity',
      'no centimetres, and it depends on the colour: read its number at the place to stop, and use that',
    ],
    ['touch', 'it finds the wall only by bumping into it: stop, back off, and slow down'],
  ],
  proximity: [['distance', 'centimetres instead of 0–100: the comparison turns round']],
  colour: [
    ['rgb', 'three numbers instead of a name: the nearest colour is chosen by the script'],
    ['light', 'only lighter and darker: the colours must differ in lightness'],
  ],
  rgb: [
    ['colour', 'names instead of numbers: only the colours that the sensor knows'],
    ['light', 'only lighter and darker: the colours must differ in lightness'],
  ],
  light: [
    ['rgb', 'three numbers: the brightest of them serves'],
    ['colour', 'names instead of numbers: no threshold, but “is black” works'],
  ],
  ambient: [['light', 'its own lamp hides the room: cover it, or read facing up']],
  heading: [
    ['spin', 'a rate instead of an angle: the script adds it up, and errors with it'],
    ['wheel', 'turns by wheel angle: right on this floor only, and slipping is not seen'],
  ],
  spin: [['heading', 'an angle instead of a rate: its change over time serves']],
  beacon: [['proximity', 'how near, not which way: the robot must turn to search']],
};

/** How one sensor that a lesson takes is met by a kit. */
export interface SensorFit {
  need: SensorNeed;
  /** Name of the kit's part that measures it; null when none does. */
  part: string | null;
  /** What the kit has instead, and what that costs. */
  instead: { kind: SensorKind; part: string; costs: string } | null;
  grade: 'fits' | 'with a substitute' | 'missing';
  says: string;
}

export interface KitFit {
  kit: string;
  sensors: SensorFit[];
  grade: SensorFit['grade'];
  says: string;
}

/** A kit's part for a kind; wheel angles are always there. */
const partFor = (kit: Kit, kind: SensorKind): string | null =>
  kind === 'wheel'
    ? 'wheel encoders'
    : (kit.sensors.find(({ modes }) => modes.some((mode) => mode.kind === kind))?.name ?? null);

function sensorFit(kit: Kit, need: SensorNeed): SensorFit {
  const part = partFor(kit, need.kind);
  const word = sensorWords[need.kind];
  if (part) return { need, part, instead: null, grade: 'fits', says: `${word}: the ${part} reads it` };
  for (const [kind, costs] of substitutes[need.kind] ?? []) {
    const other = partFor(kit, kind);
    if (other)
      return {
        need,
        part: null,
        instead: { kind, part: other, costs },
        grade: 'with a substitute',
        says: `${word}: not in this kit. The ${other} (${sensorWords[kind]}) can stand in: ${costs}`,
      };
  }
  return {
    need,
    part: null,
    instead: null,
    grade: 'missing',
    says: `${word}: not in this kit, and nothing stands in for it`,
  };
}

/** Every sensor that a lesson takes, the one it is about first. */
export const needsOfLesson = (lesson: Lesson): SensorNeed[] => [lesson.need, ...(lesson.also ?? [])];

/** Whether a kit has what a lesson takes; with substitutes and what they cost. */
export function kitFit(lesson: Lesson, kit: Kit): KitFit {
  const sensors = needsOfLesson(lesson).map((need) => sensorFit(kit, need));
  const short = (grade: SensorFit['grade']) => sensors.filter((fit) => fit.grade === grade).length;
  const free = kit.sockets.filter(({ takes }) => takes === 'sensor').length;
  if (sensors.length > free)
    return {
      kit: kit.name,
      sensors,
      grade: 'missing',
      says: `The ${kit.name} has ${free} sockets for sensors; the lesson takes ${sensors.length}.`,
    };
  const grade =
    short('missing') > 0 ? 'missing' : short('with a substitute') > 0 ? 'with a substitute' : 'fits';
  const says =
    grade === 'fits'
      ? `The ${kit.name} has all that it takes.`
      : grade === 'missing'
        ? `The ${kit.name} cannot do this lesson.`
        : `The ${kit.name} can do it with ${short(grade) === 1 ? 'a substitute' : 'substitutes'}; the script changes with it.`;
  return { kit: kit.name, sensors, grade, says };
}
