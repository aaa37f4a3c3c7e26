import { formatNumber } from '../quantity/index.ts';
import type { Lesson } from './lesson.ts';
import { drawTwist, valuesInWords, variantOf, type TwistValues } from './twist/index.ts';

/** The runs of a proof are spread over so many drawn tasks: enough that no typed answer fits them all, few enough to be made once. */
export const WORLDS = 10;

/** A lesson with its task as one run of a proof has it. */
export interface World {
  lesson: Lesson;
  /** What was drawn; null where nothing varies. */
  values: TwistValues | null;
  /** The same in words: “dark lanes 4 · coloured lanes 1”. */
  says: string;
}

const made = new WeakMap<Lesson, Map<number, World>>();

/**
 * The task of one run: what the lesson varies from run to run (`varies`), drawn from the run's seed. The same lesson and seed give
 * the same task, and the same object. A draw that the constraints do not allow leaves the usual task.
 */
export function worldOf(lesson: Lesson, seed: number): World {
  const { varies, ...rest } = lesson;
  if (!varies || varies.parameters.length === 0) return { lesson, values: null, says: '' };
  const index = ((seed % WORLDS) + WORLDS) % WORLDS;
  let worlds = made.get(lesson);
  if (!worlds) made.set(lesson, (worlds = new Map<number, World>()));
  let world = worlds.get(index);
  if (!world) {
    const drawn = drawTwist(varies, index + 1);
    const values = drawn.ok ? drawn.value : null;
    world = {
      lesson: variantOf({ ...rest, twist: varies }, values),
      values,
      says: values ? valuesInWords(varies, values) : '',
    };
    worlds.set(index, world);
  }
  return world;
}

/** What a lesson varies from run to run, in words: what it is, and between which values. */
export const variesInWords = ({ varies }: Lesson): { says: string; range: string }[] =>
  (varies?.parameters ?? []).map((parameter) => ({
    says: parameter.says,
    range:
      parameter.is === 'word'
        ? parameter.words.join(', ')
        : `${formatNumber(parameter.from)} to ${formatNumber(parameter.to)} ${parameter.unit}`.trim(),
  }));

/** Whether what an expectation asks for changes from run to run: its count, its colours. */
export const expectationVaries = ({ varies }: Lesson, index: number): boolean =>
  (varies?.bindings ?? []).some(({ at }) => at.startsWith(`/expectations/${index}/`));
