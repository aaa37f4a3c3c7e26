import {
  answerFault,
  askCount,
  askGap,
  askPast,
  askTurn,
  handQuestions,
  judgeByHand,
  pastKey,
  type Answers,
  type HandQuestion,
  type Judgement,
} from '../expect/index.ts';
import type { FloorMeasure, Lesson } from './lesson.ts';
import { measuresOf } from './measures.ts';
import { lessonAt, stepsOf } from './steps.ts';

/** A trial as it is kept: what most lessons measure in fields of its own, the rest by the key of its question. Null is not answered. */
export interface TrialFields {
  pastMm: number | null;
  gapMm: number | null;
  turnedDeg: number | null;
  counted: number | null;
  rested: boolean | null;
  tookS: number | null;
  seen: Answers;
}

function questionOf(lesson: Lesson, measure: FloorMeasure): HandQuestion {
  switch (measure) {
    case 'past':
      return askPast(lesson.floor.landmark, lesson.course);
    case 'gap':
      return askGap;
    case 'turn':
      return askTurn;
    case 'count':
      return askCount;
  }
}

/** What is asked after a run on the floor: what the lesson measures first, then what else its sentences can be judged by. */
export function floorQuestions(lesson: Lesson): HandQuestion[] {
  const all = [
    ...measuresOf(lesson).map((measure) => questionOf(lesson, measure)),
    ...handQuestions(lesson.expectations, lesson.course),
  ];
  return [...new Map(all.map((question) => [question.key, question])).values()];
}

/** The fields that some answers have of their own, by key. */
const fieldKeys = ({ floor }: Lesson) =>
  ({
    pastMm: pastKey(floor.landmark),
    gapMm: 'gap',
    turnedDeg: 'turned',
    counted: 'count',
    rested: 'rested',
    tookS: 'took',
  }) as const;

/** A trial’s answers by the key of what was asked. */
export function answersOf(lesson: Lesson, { seen, ...fields }: TrialFields): Answers {
  const own = Object.entries(fieldKeys(lesson)).flatMap(([field, key]) => {
    const value = fields[field as keyof typeof fields];
    return value === null ? [] : [[key, value] as const];
  });
  return { ...seen, ...Object.fromEntries(own) };
}

/** Answers as a trial keeps them: the inverse of `answersOf`. */
export function fieldsOf(lesson: Lesson, answers: Answers): TrialFields {
  const keys = fieldKeys(lesson);
  const amount = (key: string): number | null => {
    const value = answers[key];
    return typeof value === 'number' ? value : null;
  };
  const own = new Set<string>(Object.values(keys));
  const { rested } = answers;
  return {
    pastMm: amount(keys.pastMm),
    gapMm: amount(keys.gapMm),
    turnedDeg: amount(keys.turnedDeg),
    counted: amount(keys.counted),
    rested: typeof rested === 'boolean' ? rested : null,
    tookS: amount(keys.tookS),
    seen: Object.fromEntries(Object.entries(answers).filter(([key]) => !own.has(key))),
  };
}

/** The lesson as the floor step of an id sees it; where there is none of that id, as its first floor step does. */
export function lessonOnFloor(lesson: Lesson, step: string | null): Lesson {
  const floors = stepsOf(lesson).filter(({ kind }) => kind === 'floor');
  const found = floors.find(({ id }) => id === step) ?? floors[0];
  return found ? lessonAt(lesson, found) : lesson;
}

/** What is wrong with what was answered beside the fields, by key: not asked, or out of bounds. */
export function seenFaults(lesson: Lesson, seen: Answers): { field: string; says: string }[] {
  const asked = new Map(floorQuestions(lesson).map((question) => [question.key, question]));
  return Object.entries(seen).flatMap(([key, answer]) => {
    const question = asked.get(key);
    const says = question ? answerFault(question, answer) : `“${key}” is not asked in this lesson.`;
    return says === null ? [] : [{ field: `seen.${key}`, says }];
  });
}

/** A trial judged by each sentence of the lesson, as the step sees it in which it was driven. */
export const judgeTrial = (lesson: Lesson, fields: TrialFields): Judgement[] => {
  const answers = answersOf(lesson, fields);
  return lesson.expectations.map((expectation) => judgeByHand(expectation, answers));
};
