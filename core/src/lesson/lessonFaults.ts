import { courseFaults, doubled, type PartFault } from '../course/index.ts';
import type { Lesson } from './lesson.ts';

const inside = (field: string, faults: readonly PartFault[]): PartFault[] =>
  faults.map((fault) => ({ ...fault, field: `${field}.${fault.field}` }));

/** What the parts of a lesson of the right shape ask of each other, with those of its courses. */
export function lessonFaults({ course, steps = [], twist }: Lesson): PartFault[] {
  return [
    ...inside('course', courseFaults(course)),
    ...doubled(steps, ({ id }) => id, 'steps', 'steps'),
    ...steps.flatMap(({ part }, i) =>
      part?.course ? inside(`steps.${i}.part.course`, courseFaults(part.course)) : [],
    ),
    ...(twist?.parameters ?? []).flatMap((parameter, i) =>
      parameter.is === 'word'
        ? doubled(parameter.words, (word) => word, `twist.parameters.${i}.words`, 'words of a parameter')
        : [],
    ),
  ];
}
