import type { Lesson } from '../lesson/index.ts';
import { inTodaysWords } from './olderWords.ts';
import { found, refused, type Outcome } from '../quantity/index.ts';

/** Name and version of the JSON format of a lesson; `docs/schemas/lesson.schema.json` is its schema. */
export const LESSON_FORMAT = 'vigilum-lesson';
export const LESSON_FORMAT_VERSION = 1;
/** Largest lesson file that is read, characters. */
export const LESSON_FILE_LIMIT = 2_000_000;
/** Deepest nesting of a lesson file. */
const DEEPEST = 40;

/** A lesson as JSON for people and programs: two spaces, one object. */
export const lessonToJson = (lesson: Lesson): string =>
  `${JSON.stringify({ format: LESSON_FORMAT, version: LESSON_FORMAT_VERSION, lesson }, null, 2)}\n`;

function depthOf(text: string): number {
  let depth = 0;
  let deepest = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text[i];
    if (quoted) {
      if (sign === '\\') i++;
      else if (sign === '"') quoted = false;
    } else if (sign === '"') quoted = true;
    else if (sign === '{' || sign === '[') deepest = Math.max(deepest, ++depth);
    else if (sign === '}' || sign === ']') depth--;
  }
  return deepest;
}

/** Plain JSON of a stranger: bounded in size and depth; what it holds is still to be validated. */
export function readJson(text: string): Outcome<unknown> {
  if (text.length > LESSON_FILE_LIMIT)
    return refused(
      `The file is ${Math.ceil(text.length / 1e6)} MB long; a lesson has at most ${LESSON_FILE_LIMIT / 1e6}.`,
      'Check that it is the right file.',
    );
  if (depthOf(text) > DEEPEST)
    return refused('The file is nested too deeply for a lesson.', 'Check that it is the right file.');
  try {
    return found(JSON.parse(text) as unknown);
  } catch (caught) {
    const at = /position (\d+)/.exec(caught instanceof Error ? caught.message : '')?.[1];
    const line = at === undefined ? null : text.slice(0, Number(at)).split('\n').length;
    return refused(
      `The file is not whole JSON${line === null ? '' : `: line ${line} cannot be read`}.`,
      'Export it again, or open it in a text editor and look at that line.',
    );
  }
}

/** What a lesson file holds, not yet validated. Refused when it is no lesson file, or of a newer version. */
export function readLessonJson(text: string): Outcome<unknown> {
  const json = readJson(text);
  if (!json.ok) return json;
  const { format, version, lesson } = (json.value ?? {}) as Record<string, unknown>;
  if (format !== LESSON_FORMAT)
    return refused(
      `This is JSON, but not a lesson: it does not say "format": "${LESSON_FORMAT}".`,
      'Choose a file that was exported from a lesson’s Share page.',
    );
  if (version !== LESSON_FORMAT_VERSION)
    return refused(
      `The lesson is written in version ${String(version).slice(0, 12)} of the format; this Vigilum reads version ${LESSON_FORMAT_VERSION}.`,
      'Ask for an export from an older Vigilum, or update this one.',
    );
  return found(inTodaysWords(lesson));
}
