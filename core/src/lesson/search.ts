import { sensorWords, type SensorKind } from '../sensing/index.ts';
import type { Lesson } from './lesson.ts';

/** What somebody looks for among lessons; what is null or empty leaves none out. */
export interface LessonSearch {
  words: string;
  kind: SensorKind | null;
  kit: string | null;
  skill: string | null;
}

export const lessonOrders = ['as they stand', 'title', 'minutes', 'newest'] as const;
export type LessonOrder = (typeof lessonOrders)[number];

/** Kinds of all sensors that a lesson takes, each once. */
export const kindsOf = ({ need, also }: Lesson): SensorKind[] => [
  ...new Set([need, ...(also ?? [])].map(({ kind }) => kind)),
];

/** A text without case and accents, as people search. */
const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Whether a lesson has every word somewhere: in its title, aim, sensors or skills. */
export function lessonMatches(lesson: Lesson, { words, kind, kit, skill }: LessonSearch): boolean {
  const kinds = kindsOf(lesson);
  const text = plain(
    [lesson.title, lesson.aim, ...(lesson.skills ?? []), ...kinds.map((one) => sensorWords[one])].join(' '),
  );
  return (
    plain(words)
      .split(/\s+/)
      .every((word) => text.includes(word)) &&
    (kind === null || kinds.includes(kind)) &&
    (kit === null || lesson.robot?.kit === kit) &&
    (skill === null || (lesson.skills ?? []).includes(skill))
  );
}

/** Lessons in an order; those that are alike in it stay as they stood. `changedAt` tells when one was changed last, ms; null for never. */
export function inOrder<L extends Lesson>(
  lessons: readonly L[],
  order: LessonOrder,
  changedAt: (lesson: L) => number | null,
): L[] {
  const sorted = [...lessons];
  switch (order) {
    case 'as they stand':
      return sorted;
    case 'title':
      return sorted.sort((a, b) => a.title.localeCompare(b.title, 'en'));
    case 'minutes':
      return sorted.sort((a, b) => a.minutes - b.minutes);
    case 'newest':
      return sorted.sort((a, b) => (changedAt(b) ?? 0) - (changedAt(a) ?? 0));
  }
}
