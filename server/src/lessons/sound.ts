import { lessonSchema } from '@vigilum/contract/files';
import { readLessonJson, readLessonMarkdown } from '@vigilum/core/formats';
import { lessonFaults, missingIn, type Lesson } from '@vigilum/core/lesson';
import { Problem, type FieldProblem } from '../http/problems.ts';

/** Refuses a lesson whose parts do not fit each other. */
export function mustBeSound(lesson: Lesson): void {
  const faults = lessonFaults(lesson);
  if (faults.length > 0)
    throw new Problem(422, 'Check the lesson', `Nothing was saved: ${faults[0]!.says}.`, faults);
}

/** Reads a lesson file in JSON or Markdown. Throws a 422 that lists everything that is wrong with it. */
export function readLesson(text: string): { lesson: Lesson; missing: ReturnType<typeof missingIn> } {
  const read = /^\s*[{[]/.test(text) ? readLessonJson(text) : readLessonMarkdown(text);
  if (!read.ok) throw new Problem(422, 'Not a lesson', `${read.says} ${read.mend}`.trim());
  const checked = lessonSchema.validate(read.value, {
    abortEarly: false,
    convert: true,
    errors: { wrap: { label: false } },
  });
  const lesson = checked.value as Lesson;
  const fields: FieldProblem[] = checked.error
    ? checked.error.details.map(({ path, message }) => ({
        field: path.join('.'),
        says: message.slice(0, 200),
      }))
    : lessonFaults(lesson);
  if (fields.length > 0)
    throw new Problem(
      422,
      'Lesson not valid',
      `${fields.length} ${fields.length === 1 ? 'part' : 'parts'} of the lesson cannot be taken. Nothing was changed.`,
      fields.slice(0, 50),
    );
  return { lesson, missing: missingIn(lesson, 'never proved') };
}
