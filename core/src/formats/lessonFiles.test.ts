import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canonical, newStep, stepKinds, stepsOf, type Lesson, type LessonStep } from '../lesson/index.ts';
import { lesson } from '../test/index.ts';
import {
  LESSON_FILE_LIMIT,
  lessonToJson,
  lessonToMarkdown,
  readLessonJson,
  readLessonMarkdown,
} from './index.ts';

const text = fc
  .array(
    fc.oneof(
      fc.string({ maxLength: 30 }),
      fc.constantFrom(
        '# heading',
        '## Read: x (3 min) <!-- read read -->',
        '\\# escaped',
        '```',
        '````json the rest of the lesson',
        '**Hint:** none',
        '**Expected:** x',
        '~~~',
        '- item',
        '',
        '{gap}',
        '<script>alert(1)</script>',
      ),
    ),
    { maxLength: 8 },
  )
  .map((lines) => lines.join('\n').replaceAll('\r', '').trim());
const line = fc.string({ maxLength: 40 }).filter((one) => one === one.trim() && one !== '');
const step = fc
  .record({
    kind: fc.constantFrom(...stepKinds),
    title: fc.string({ maxLength: 30 }).filter((one) => one === one.trim()),
    text,
    minutes: fc.integer({ min: 0, max: 480 }),
    expects: fc.oneof(fc.constant(''), line),
    hints: fc.array(line, { maxLength: 3 }),
    cautions: fc.array(line, { maxLength: 3 }),
    part: fc.option(fc.record({ startScript: text, trials: fc.integer({ min: 0, max: 9 }) }), {
      nil: undefined,
    }),
  })
  .map(({ part, ...fields }) => ({ ...fields, ...(part ? { part } : {}) }));
const lessons = fc
  .record({
    title: line,
    aim: line,
    steps: fc.array(step, { minLength: 1, maxLength: 12 }),
    modelScript: text,
  })
  .map(({ steps, ...fields }): Lesson => {
    const named = steps.reduce<LessonStep[]>(
      (list, one) => [...list, { ...one, id: newStep(one.kind, list).id }],
      [],
    );
    return { ...lesson, ...fields, steps: named };
  });
const plain = (given: Lesson): unknown => JSON.parse(JSON.stringify(given));

describe('a lesson as a file', () => {
  it('comes back from JSON as it went', () => {
    fc.assert(
      fc.property(lessons, (given) => {
        const read = readLessonJson(lessonToJson(given));
        expect(read).toEqual({ ok: true, value: plain(given) });
      }),
    );
  });

  it('comes back from Markdown as it went, whatever stands in its texts', () => {
    fc.assert(
      fc.property(lessons, (given) => {
        const read = readLessonMarkdown(lessonToMarkdown(given));
        if (!read.ok) throw new Error(read.says);
        expect(canonical(read.value)).toBe(canonical(plain(given)));
      }),
      { numRuns: 300 },
    );
  });

  it('that says “school” for what is called method today is read all the same', () => {
    const decided = { ...lesson, steps: [{ ...newStep('decide', []), part: { method: 'halfway' } }] };
    for (const [file, read] of [
      [lessonToJson(decided), readLessonJson],
      [lessonToMarkdown(decided), readLessonMarkdown],
    ] as const) {
      const older = file.replaceAll('"method":', '"school":');
      expect(older).not.toBe(file);
      expect(read(older)).toEqual(read(file));
    }
  });

  it('without steps of its own stays without them', () => {
    const read = readLessonMarkdown(lessonToMarkdown(lesson));
    expect(read.ok && canonical(read.value)).toBe(canonical(plain(lesson)));
  });

  it('reads as text: title, aim, a heading for each step with its minutes', () => {
    const written = lessonToMarkdown({ ...lesson, title: 'Stop', aim: 'It stops.', steps: stepsOf(lesson) });
    expect(written.startsWith('# Stop\n\nIt stops.\n\n## Brief: Brief (3 min)')).toBe(true);
    expect(written).toMatch(/^## Read: Read \(5 min\) <!-- read read -->$/m);
    expect(written).toContain(`\`\`\`step-script model answer\n${lesson.modelScript}`);
  });

  it('takes what was edited by hand, with other line ends and more blank lines', () => {
    const steps = stepsOf(lesson);
    const edited = lessonToMarkdown({ ...lesson, steps })
      .replace('## Wire: Wire (3 min)', '## Wire: Plug it in (7 min)')
      .replace('<!-- wire wire -->\n', '<!-- wire wire -->\n\n\nPush it **home**.\n\n\n')
      .replaceAll('\n', '\r\n');
    const read = readLessonMarkdown(edited);
    if (!read.ok) throw new Error(read.says);
    const [, wire] = (read.value as Lesson).steps!;
    expect(wire).toMatchObject({ title: 'Plug it in', minutes: 7, text: 'Push it **home**.' });
  });
});

describe('a file that is no lesson', () => {
  const deep = `{"format":"vigilum-lesson","version":1,"lesson":${'['.repeat(60)}${']'.repeat(60)}}`;
  it.each<[string, string, RegExp]>([
    ['broken JSON', '{\n"format": "vigilum-lesson",\n"version": 1,,\n}', /not whole JSON/],
    ['a cut file', lessonToJson(lesson).slice(0, 200), /not whole JSON/],
    ['other JSON', '{"a": 1}', /does not say "format"/],
    ['a list', '[1, 2]', /does not say "format"/],
    ['nothing but a word', 'null', /does not say "format"/],
    ['a newer version', '{"format":"vigilum-lesson","version":7,"lesson":{}}', /version 7 of the format/],
    ['nesting without end', deep, /nested too deeply/],
    ['far too much', `{"a":"${'x'.repeat(LESSON_FILE_LIMIT)}"}`, /3 MB long; a lesson has at most 2/],
  ])('%s is refused in one sentence', (_, file, says) => {
    const read = readLessonJson(file);
    expect(read.ok ? '' : read.says).toMatch(says);
  });

  const whole = lessonToMarkdown({ ...lesson, steps: stepsOf(lesson) });
  it.each<[string, string, RegExp]>([
    ['plain text', 'Dear colleague', /has no fence/],
    ['an open fence', whole.replace(/\n```\n$/, '\n'), /never closed/],
    [
      'a heading that is none',
      whole.replace('## Wire: Wire (3 min)', '## Wire, three minutes'),
      /is no heading of a step/,
    ],
    [
      'an unknown kind',
      whole.replace('<!-- wire wire -->', '<!-- weld wire -->'),
      /“weld” is no kind of step/,
    ],
    ['no title', whole.replace(/^# .*\n/, ''), /has no title/],
    [
      'a last fence that is a list',
      whole.replace(/(json the rest of the lesson\n)[^]*(\n```\n)$/, '$1[1]$2'),
      /no JSON object/,
    ],
    ['far too much', 'x'.repeat(LESSON_FILE_LIMIT + 1), /a lesson has at most/],
  ])('%s in Markdown is refused in one sentence', (_, file, says) => {
    const read = readLessonMarkdown(file);
    expect(read.ok ? '' : read.says).toMatch(says);
  });

  it('never throws, whatever it is', () => {
    fc.assert(
      fc.property(fc.oneof(text, fc.string(), fc.json()), (file) => {
        for (const read of [readLessonJson(file), readLessonMarkdown(file)])
          if (!read.ok) expect(read.says.length).toBeGreaterThan(10);
      }),
    );
  });
});
