import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import { LESSON_FILE_LIMIT, readJson, readLessonJson, readLessonMarkdown } from '@vigilum/core/formats';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import { lessonSchema } from '@vigilum/contract/files';
import { usualLessons } from '../starter/lessons/index.ts';
import { CannotJudge } from './arguments.ts';

/** Most scripts of one folder. */
const MOST_SCRIPTS = 500;
const endings = ['.txt', '.script'];

export interface ScriptFile {
  name: string;
  text: string;
}

function sizeOf(path: string): number {
  try {
    return statSync(path).size;
  } catch {
    throw new CannotJudge(`${path}: there is no such file.`);
  }
}

/** A shipped lesson by its name, or one from a file; its fields are checked before anything is done with it. */
export function readLesson(given: string): Lesson {
  const shipped = usualLessons.find(({ slug }) => slug === given);
  if (shipped) return shipped;
  const kind = extname(given);
  if (kind !== '.json' && kind !== '.md')
    throw new CannotJudge(
      `“${given}” is no shipped lesson (${usualLessons.map(({ slug }) => slug).join(', ')}) and no .json or .md file.`,
    );
  if (sizeOf(given) > LESSON_FILE_LIMIT) throw new CannotJudge(`${given}: a lesson file has at most 2 MB.`);
  const text = readFileSync(given, 'utf8');
  const read = kind === '.md' ? readLessonMarkdown(text) : readJson(text);
  if (!read.ok) throw new CannotJudge(`${given}: ${read.says}`);
  // As exported, with its format and version, or the lesson alone.
  const whole = kind === '.json' && (read.value as { format?: unknown } | null)?.format !== undefined;
  const exported = whole ? readLessonJson(text) : read;
  if (!exported.ok) throw new CannotJudge(`${given}: ${exported.says}`);
  const data = exported.value;
  const checked = lessonSchema.validate(data, { abortEarly: false });
  if (checked.error) {
    const says = checked.error.details.slice(0, 12).map(({ message }) => `  ${message}`);
    throw new CannotJudge(`${given}: this is no lesson as Vigilum writes them:\n${says.join('\n')}`);
  }
  return variantOf(checked.value);
}

const readScript = (path: string): ScriptFile => {
  if (sizeOf(path) > 4 * SCRIPT_LIMIT.characters)
    throw new CannotJudge(`${path}: a script has at most ${SCRIPT_LIMIT.characters} characters.`);
  return { name: basename(path), text: readFileSync(path, 'utf8') };
};

/** The scripts in files and folders, in the order of their names. */
export function readScripts(paths: readonly string[]): ScriptFile[] {
  return paths.flatMap((path) => {
    sizeOf(path);
    if (!statSync(path).isDirectory()) return [readScript(path)];
    const inside = readdirSync(path)
      .filter((name) => endings.includes(extname(name)))
      .sort((a, b) => a.localeCompare(b));
    if (inside.length === 0)
      throw new CannotJudge(`${path}: no ${endings.join(' or ')} file in this folder.`);
    if (inside.length > MOST_SCRIPTS) throw new CannotJudge(`${path}: more than ${MOST_SCRIPTS} scripts.`);
    return inside.map((name) => readScript(join(path, name)));
  });
}
