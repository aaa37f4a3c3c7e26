import type { Lesson } from './lesson.ts';
import { stepsOf } from './steps.ts';
import { type LessonStep } from './lesson.ts';

/** Parts that a verdict on the model answer rests on. */
const JUDGED = [
  'need',
  'also',
  'modelScript',
  'course',
  'expectations',
  'conditions',
  'proof',
  'timeLimitS',
  'robot',
  'twist',
  'varies',
  'floor',
] as const satisfies (keyof Lesson)[];

/** JSON with the keys of every object in one order: equal values give equal text. */
export const canonical = (value: unknown): string =>
  JSON.stringify(value, (_key, item: unknown) =>
    item !== null && typeof item === 'object' && !Array.isArray(item)
      ? Object.fromEntries(Object.entries(item).sort(([a], [b]) => (a < b ? -1 : 1)))
      : item,
  ) ?? '';

const same = (a: unknown, b: unknown): boolean => canonical(a) === canonical(b);

/** Whether the model answers of two lessons would be judged alike: a proof of one holds for the other. */
export const sameJudged = (a: Lesson, b: Lesson): boolean => JUDGED.every((part) => same(a[part], b[part]));

/** One difference between two versions of a lesson, older first. Texts of several lines can be shown side by side. */
export interface LessonDifference {
  where: string;
  says: string;
  before: string;
  after: string;
}

const partWords: Partial<Record<keyof Lesson, string>> = {
  title: 'title',
  aim: 'aim',
  minutes: 'period',
  need: 'sensor',
  also: 'further sensors',
  read: 'what is read',
  startScript: 'starting script',
  modelScript: 'model answer',
  course: 'course',
  expectations: 'expectations',
  conditions: 'conditions',
  proof: 'proof',
  timeLimitS: 'longest run',
  floor: 'floor trials',
  cautions: 'cautions',
  robot: 'robot',
  faults: 'typical faults',
  rightToo: 'other right answers',
  accepts: 'breaks that are right too',
  skills: 'skills',
  needs: 'skills that come before',
  twist: 'twist',
  varies: 'what varies from run to run',
  origin: 'origin',
};

const told = (value: unknown): string =>
  value === undefined
    ? ''
    : typeof value === 'string'
      ? value
      : Array.isArray(value) && value.every((item) => typeof item === 'string')
        ? value.join('\n')
        : JSON.stringify(value, null, 1);

const stepPartWords: Record<Exclude<keyof LessonStep, 'id'>, string> = {
  kind: 'kind',
  title: 'title',
  text: 'text',
  minutes: 'minutes',
  expects: 'what is expected',
  hints: 'hints',
  cautions: 'cautions',
  part: 'working part',
};

/** What differs between two versions of a lesson, part by part and step by step; empty when nothing does. */
export function lessonDifferences(before: Lesson, after: Lesson): LessonDifference[] {
  const parts = (Object.keys(partWords) as (keyof Lesson)[])
    .filter((part) => !same(before[part], after[part]))
    .map((part) => ({
      where: partWords[part]!,
      says: 'changed',
      before: told(before[part]),
      after: told(after[part]),
    }));
  const [old, now] = [stepsOf(before), stepsOf(after)];
  const name = ({ kind, title }: LessonStep) => `step ${title || kind}`;
  const steps = now.flatMap((step): LessonDifference[] => {
    const was = old.find(({ id }) => id === step.id);
    if (!was) return [{ where: name(step), says: 'added', before: '', after: step.text }];
    return (Object.keys(stepPartWords) as (keyof typeof stepPartWords)[])
      .filter((part) => !same(was[part], step[part]))
      .map((part) => ({
        where: name(step),
        says: `${stepPartWords[part]} changed`,
        before: told(was[part]),
        after: told(step[part]),
      }));
  });
  const gone = old
    .filter(({ id }) => !now.some((step) => step.id === id))
    .map((step) => ({ where: name(step), says: 'removed', before: step.text, after: '' }));
  const kept = (list: LessonStep[], other: LessonStep[]) =>
    list.map(({ id }) => id).filter((id) => other.some((step) => step.id === id));
  const moved = same(kept(old, now), kept(now, old))
    ? []
    : [
        {
          where: 'order of the steps',
          says: 'changed',
          before: old.map(({ title }) => title).join('\n'),
          after: now.map(({ title }) => title).join('\n'),
        },
      ];
  return [...parts, ...moved, ...steps, ...gone];
}
