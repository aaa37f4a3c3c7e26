import { buildCourse, courseFamilies } from '../../course/index.ts';
import { formatNumber } from '../../quantity/index.ts';
import type { Lesson } from '../lesson.ts';
import { readArithmetic } from './arithmetic.ts';
import { namesOf, numbersOf, PARAMETER_NAME, usualValues, type Twist, type TwistValues } from './twist.ts';

/** Parts of a lesson whose numbers may follow a twist; the rest says what the lesson is. */
export const BOUND_PARTS = ['course', 'expectations', 'conditions', 'steps', 'robot', 'timeLimitS', 'floor'];

const PLACEHOLDER = /\{([^{}\n]{1,60})\}/g;

/** So many characters may values add to one text: a lesson of nothing but placeholders stays a lesson. */
const MOST_ADDED = 4000;

/**
 * A text with its parameters put in: `{gap}`, or a formula over them, `{gap + 3}`. What names no parameter stays as
 * it is written.
 */
export function fillText(text: string, twist: Twist, values: TwistValues): string {
  if (!text.includes('{')) return text;
  const numbers = numbersOf(twist, values);
  const names = namesOf(twist);
  let room = MOST_ADDED;
  const put = (written: string, told: string): string => {
    room -= told.length - written.length;
    return room >= 0 ? told : written;
  };
  return text.replace(PLACEHOLDER, (written: string, inside: string) => {
    if (Object.hasOwn(values, inside)) {
      const value = values[inside]!;
      return put(written, typeof value === 'number' ? formatNumber(value, 6) : value);
    }
    const words: string[] = inside.match(/[A-Za-z][A-Za-z0-9_]*/g) ?? [];
    const formula = words.some((word) => names.has(word)) ? readArithmetic(inside, names) : null;
    const number = formula?.ok ? formula.value(numbers) : NaN;
    return Number.isFinite(number) ? put(written, formatNumber(number, 6)) : written;
  });
}

/** The same of every text inside something. */
function filled<T>(value: T, fill: (text: string) => string): T {
  if (typeof value === 'string') return fill(value) as T;
  if (Array.isArray(value)) return value.map((item: unknown) => filled(item, fill)) as T;
  if (value !== null && typeof value === 'object')
    return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, filled(item, fill)])) as T;
  return value;
}

/** The parts of a JSON Pointer (RFC 6901). */
const pathOf = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));

/** What holds the number that a pointer names, and under which key; null where no number of a lesson stands. */
function holderOf(lesson: object, pointer: string): { holder: Record<string, unknown>; key: string } | null {
  const path = pathOf(pointer);
  if (path.length === 0 || !BOUND_PARTS.includes(path[0]!)) return null;
  let holder: unknown = lesson;
  for (const key of path.slice(0, -1)) {
    if (holder === null || typeof holder !== 'object' || !Object.hasOwn(holder, key)) return null;
    holder = (holder as Record<string, unknown>)[key];
  }
  const key = path.at(-1)!;
  if (holder === null || typeof holder !== 'object' || !Object.hasOwn(holder, key)) return null;
  return ['number', 'string'].includes(typeof (holder as Record<string, unknown>)[key])
    ? { holder: holder as Record<string, unknown>, key }
    : null;
}

/** The number that a pointer names; null where no number of a lesson stands. */
export function numberAt(lesson: Lesson, pointer: string): number | null {
  const place = holderOf(lesson, pointer);
  const value = place?.holder[place.key];
  return typeof value === 'number' ? value : null;
}

/** The word that a parameter is just now; null for a name of no word. */
function wordOf(twist: Twist, name: string, values: TwistValues): string | null {
  const value = twist.parameters.some((parameter) => parameter.is === 'word' && parameter.name === name)
    ? values[name]
    : null;
  return typeof value === 'string' ? value : null;
}

/**
 * The lesson of one team: text, course, model answer, expectations and every bound number with the team's values.
 * A lesson without a twist is itself. Formulas that cannot be read, or come to no number, leave the lesson's own.
 */
export function variantOf(lesson: Lesson, values: TwistValues | null = null): Lesson {
  const { twist, ...rest } = lesson;
  if (!twist) return lesson;
  const all = { ...usualValues(twist), ...values };
  const numbers = numbersOf(twist, all);
  const names = namesOf(twist);
  const worth = (text: string): number | null => {
    const formula = readArithmetic(text, names);
    const value = formula.ok ? formula.value(numbers) : NaN;
    return Number.isFinite(value) ? value : null;
  };
  const variant: Lesson = filled(rest, (text) => fillText(text, twist, all));
  const family = courseFamilies.find(({ id }) => id === twist.family?.id);
  if (family && twist.family) {
    const sizes = Object.fromEntries(
      Object.entries(twist.family.values).flatMap(([id, text]) => {
        const value = worth(text);
        return value === null ? [] : [[id, value] as const];
      }),
    );
    variant.course = { ...buildCourse(family, sizes), name: variant.course.name };
  }
  for (const { at, value } of twist.bindings) {
    const place = holderOf(variant, at);
    if (!place) continue;
    // A text takes the word itself, a number what the formula comes to.
    const now = typeof place.holder[place.key] === 'string' ? wordOf(twist, value, all) : worth(value);
    if (now !== null) place.holder[place.key] = now;
  }
  return variant;
}

/** Whether a text of the lesson follows a word of the twist at a place. */
const isWordAt = (lesson: Lesson, at: string, value: string, twist: Twist): boolean => {
  const place = holderOf(lesson, at);
  return typeof place?.holder[place.key] === 'string' && wordOf(twist, value, usualValues(twist)) !== null;
};

/** What is wrong with a twist, each in one sentence: unknown names, ranges that are none, places that are no numbers. */
export function twistFaults(lesson: Lesson): string[] {
  const { twist } = lesson;
  if (!twist) return [];
  const faults: string[] = [];
  const seen = new Set<string>();
  for (const parameter of twist.parameters) {
    const { name } = parameter;
    if (!PARAMETER_NAME.test(name))
      faults.push(`“${name}” is no name for a parameter: a letter, then letters, digits or _.`);
    if (seen.has(name)) faults.push(`Two parameters are called “${name}”.`);
    seen.add(name);
    if (parameter.is === 'number') {
      const { from, to, step, usual } = parameter;
      if (to < from) faults.push(`“${name}” runs from ${from} to ${to}: the end lies before the beginning.`);
      if (step <= 0) faults.push(`“${name}” has a step of ${step}: it must be more than 0.`);
      if (usual < from || usual > to)
        faults.push(`“${name}” is usually ${usual}, which is outside ${from} to ${to}.`);
    } else if (!parameter.words.includes(parameter.usual)) {
      faults.push(`“${name}” is usually “${parameter.usual}”, which is none of its words.`);
    }
  }
  const names = namesOf(twist);
  const check = (text: string, what: string) => {
    const formula = readArithmetic(text, names);
    if (!formula.ok) faults.push(`${what}: ${formula.says}`);
  };
  for (const text of twist.constraints) check(text, 'A constraint');
  for (const { at, value } of twist.bindings) {
    check(value, `The number at ${at}`);
    if (numberAt(lesson, at) === null && !isWordAt(lesson, at, value, twist))
      faults.push(`There is no number of the lesson at “${at}”.`);
  }
  if (twist.family) {
    const family = courseFamilies.find(({ id }) => id === twist.family!.id);
    if (!family) faults.push(`There is no course family “${twist.family.id}”.`);
    for (const [id, text] of Object.entries(twist.family.values)) {
      check(text, `The course’s “${id}”`);
      if (family && !family.parameters.some((parameter) => parameter.id === id))
        faults.push(`The course family “${family.name}” has no “${id}”.`);
    }
  }
  return faults;
}

/** A number of a lesson that a twist may take hold of, and how people call it. */
export interface BoundPlace {
  at: string;
  says: string;
  value: number;
}

const numbersIn = (value: unknown, at: string, says: string, places: BoundPlace[]): void => {
  if (typeof value === 'number') places.push({ at, says, value });
  else if (value !== null && typeof value === 'object')
    for (const [key, item] of Object.entries(value)) {
      const called = key.replaceAll(/([A-Z])/g, ' $1').toLowerCase();
      numbersIn(
        item,
        `${at}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`,
        `${says}, ${called}`,
        places,
      );
    }
};

/** Every number of a lesson that a twist can bind, outside the course's marks: those follow the course's family. */
export function boundPlaces(lesson: Lesson, tellExpectation: (index: number) => string): BoundPlace[] {
  const places: BoundPlace[] = [];
  lesson.expectations.forEach((expectation, i) =>
    numbersIn(expectation, `/expectations/${i}`, `expected: ${tellExpectation(i)}`, places),
  );
  for (const [socket, value] of Object.entries(lesson.robot?.thresholds ?? {}))
    places.push({
      at: `/robot/thresholds/${socket}`,
      says: `threshold of the model answer on ${socket}`,
      value,
    });
  places.push({ at: '/timeLimitS', says: 'longest run, s', value: lesson.timeLimitS });
  numbersIn(lesson.conditions, '/conditions', 'conditions', places);
  (lesson.course.boxes ?? []).forEach((box, i) =>
    numbersIn(box.stays ?? [], `/course/boxes/${i}/stays`, `obstacle ${i + 1}`, places),
  );
  (lesson.course.presses ?? []).forEach((press, i) =>
    numbersIn(press, `/course/presses/${i}`, `press ${i + 1} of the bumper`, places),
  );
  lesson.course.starts.forEach((start, i) =>
    numbersIn(start, `/course/starts/${i}`, `start ${start.name}`, places),
  );
  return places;
}

/** Whether a lesson differs from team to team. */
export const hasTwist = (lesson: Lesson): lesson is Lesson & { twist: Twist } =>
  lesson.twist !== undefined && lesson.twist.parameters.length > 0;
