import { isStepKind, stepFacts, type Lesson, type LessonStep, type WorkingPart } from '../lesson/index.ts';
import { found, refused, type Outcome } from '../quantity/index.ts';
import { inTodaysWords } from './olderWords.ts';
import { LESSON_FILE_LIMIT, readJson } from './lessonFile.ts';

/** What is said of the fence that holds what a page of text cannot: course, expectations, conditions. */
const REST = 'json the rest of the lesson';

/** Lines of a text that would be read as a heading of the lesson, or as one of its fences, get a backslash. */
const guarded = (text: string): string =>
  text.replaceAll(/^(\\*)(#|```|~~~|\*\*Expected:|\*\*Hint:|\*\*Caution:)/gm, '$1\\$2');
const unguarded = (text: string): string =>
  text.replaceAll(/^(\\*)\\(#|```|~~~|\*\*Expected:|\*\*Hint:|\*\*Caution:)/gm, '$1$2');

/** A text of one line: line ends and backslashes are written as \n and \\. */
const oneLine = (text: string): string =>
  text.replaceAll('\\', '\\\\').replaceAll('\r', '\\r').replaceAll('\n', '\\n');
const manyLines = (text: string): string =>
  text.replaceAll(/\\([\\rn])/g, (_, sign: string) => (sign === 'n' ? '\n' : sign === 'r' ? '\r' : '\\'));

function fenced(info: string, text: string): string {
  let longest = 2;
  for (const [run] of text.matchAll(/`+/g)) longest = Math.max(longest, run.length);
  const fence = '`'.repeat(longest + 1);
  return `${fence}${info}\n${text}\n${fence}\n`;
}

function stepToMarkdown({ id, kind, title, text, minutes, expects, hints, cautions }: LessonStep): string {
  return [
    `## ${stepFacts[kind].word}: ${oneLine(title)} (${minutes} min) <!-- ${kind} ${id} -->\n`,
    ...(text === '' ? [] : [`${guarded(text)}\n`]),
    ...(expects === '' ? [] : [`**Expected:** ${oneLine(expects)}\n`]),
    ...hints.map((hint) => `**Hint:** ${oneLine(hint)}\n`),
    ...cautions.map((caution) => `**Caution:** ${oneLine(caution)}\n`),
  ].join('\n');
}

/**
 * A lesson as Markdown: title, aim and steps as text to read and edit, the scripts as fences, and everything else
 * as one fence of JSON at the end. Reading it back gives the same lesson.
 */
export function lessonToMarkdown(lesson: Lesson): string {
  const { title, aim, startScript, modelScript, steps, ...rest } = lesson;
  const parts = Object.fromEntries((steps ?? []).flatMap(({ id, part }) => (part ? [[id, part]] : [])));
  return [
    `# ${oneLine(title)}\n`,
    ...(aim === '' ? [] : [`${oneLine(aim)}\n`]),
    ...(steps ?? []).map(stepToMarkdown),
    '# Scripts\n',
    fenced('step-script model answer', modelScript),
    fenced('step-script to start from', startScript),
    '# Everything else\n',
    fenced(REST, JSON.stringify({ ...rest, ...(steps ? { parts } : {}) }, null, 1)),
  ].join('\n');
}

const HEADING = /^## [^:\n]*: (.*) \((\d{1,4}) min\) <!-- ([a-z]+) ([a-z0-9-]{1,40}) -->$/;

/** Takes the fences out of a text: what each says of itself, and what it holds. */
function cutFences(lines: string[]): { fences: Map<string, string>; left: string[] } | null {
  const fences = new Map<string, string>();
  const left: string[] = [];
  for (let i = 0; i < lines.length; i++) {
    const opened =
      /^(`{3,})(step-script model answer|step-script to start from|json the rest of the lesson)$/.exec(
        lines[i]!,
      );
    if (!opened) {
      left.push(lines[i]!);
      continue;
    }
    const end = lines.indexOf(opened[1]!, i + 1);
    if (end < 0) return null;
    fences.set(opened[2]!, lines.slice(i + 1, end).join('\n'));
    i = end;
  }
  return { fences, left };
}

function stepFrom(
  heading: RegExpExecArray,
  lines: string[],
  parts: Record<string, WorkingPart>,
): Outcome<LessonStep> {
  const [, title, minutes, kind, id] = heading as unknown as [string, string, string, string, string];
  if (!isStepKind(kind))
    return refused(
      `“${kind}” is no kind of step.`,
      'A step is brief, wire, read, decide … as the guide lists them.',
    );
  const step: LessonStep = {
    id,
    kind: kind,
    title: manyLines(title),
    text: '',
    minutes: Number(minutes),
    expects: '',
    hints: [],
    cautions: [],
  };
  const text: string[] = [];
  for (const line of lines) {
    const said = /^\*\*(Expected|Hint|Caution):\*\* (.*)$/.exec(line);
    if (!said) text.push(line);
    else if (said[1] === 'Expected') step.expects = manyLines(said[2]!);
    else (said[1] === 'Hint' ? step.hints : step.cautions).push(manyLines(said[2]!));
  }
  step.text = unguarded(text.join('\n').trim());
  if (Object.hasOwn(parts, id)) step.part = parts[id]!;
  return found(step);
}

/** What a Markdown lesson holds, not yet validated. Refused with the place where it is no lesson. */
export function readLessonMarkdown(file: string): Outcome<unknown> {
  if (file.length > LESSON_FILE_LIMIT) return readJson(file);
  const cut = cutFences(file.replaceAll('\r\n', '\n').split('\n'));
  if (!cut)
    return refused('A fence of the file is never closed.', 'Every line of ``` needs a second one after it.');
  const { fences, left } = cut;
  const json = fences.get(REST);
  if (json === undefined)
    return refused(
      `The file has no fence “${REST}”: the course and the expectations are missing.`,
      'Export the lesson as Markdown and edit that file; the last fence must stay in it.',
    );
  const rest = readJson(json);
  if (!rest.ok) return rest;
  if (rest.value === null || typeof rest.value !== 'object' || Array.isArray(rest.value))
    return refused('The last fence of the file is no JSON object.', 'Export the lesson again.');
  const { parts, ...given } = rest.value as Record<string, unknown>;
  const scripts = left.lastIndexOf('# Scripts');
  const body = scripts < 0 ? left : left.slice(0, scripts);
  const title = body.findIndex((line) => line.startsWith('# '));
  if (title < 0)
    return refused('The file has no title.', 'Its first line is “# ” and the title of the lesson.');
  const starts = body.flatMap((line, i) => (line.startsWith('## ') ? [i] : []));
  const steps: LessonStep[] = [];
  for (const [n, at] of starts.entries()) {
    const heading = HEADING.exec(body[at]!);
    if (!heading)
      return refused(
        `“${body[at]!.slice(0, 60)}” is no heading of a step.`,
        'A step begins with “## Read: Both surfaces (6 min) <!-- read read -->”; a heading inside a text needs a backslash before it.',
      );
    const step = stepFrom(heading, body.slice(at + 1, starts[n + 1] ?? body.length), (parts ?? {}) as never);
    if (!step.ok) return step;
    steps.push(step.value);
  }
  const aim = body.slice(title + 1, starts[0] ?? body.length).find((line) => line.trim() !== '');
  const lesson = {
    ...given,
    title: manyLines(body[title]!.slice(2)),
    aim: manyLines(aim ?? ''),
    startScript: fences.get('step-script to start from') ?? '',
    modelScript: fences.get('step-script model answer') ?? '',
    ...(parts === undefined ? {} : { steps }),
  };
  return found(inTodaysWords(lesson));
}
