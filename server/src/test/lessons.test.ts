import { execFileSync } from 'node:child_process';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { courseFacts, narrowestLine } from '@vigilum/core/lesson';
import { canRun, formatScript, parseScript } from '@vigilum/core/script';
import { review } from '@vigilum/core/review';
import { shippedKits } from '../starter/starter.ts';
import { lessonSchema } from '@vigilum/contract/files';
import { harbourLessons, usualLessons } from '../starter/lessons/index.ts';
import { bundled } from '../program.ts';
import type { LessonProofs, ProposalProof } from './harbourProofs.ts';

const surfaces = { low: { name: 'line', mean: 20, sd: 1.5 }, high: { name: 'boards', mean: 76, sd: 2 } };

const each = usualLessons.map((lesson) => [lesson.title, lesson] as const);

describe('the sixteen lessons of the harbour year', () => {
  it('are sixteen, each with a robot and three typical faults or more', () => {
    expect(new Set(harbourLessons.map(({ slug }) => slug)).size).toBe(16);
    for (const { robot, faults } of harbourLessons) {
      expect(robot).toBeDefined();
      expect(faults!.length).toBeGreaterThanOrEqual(3);
    }
  });

  it.each(each)(
    '%s: its model answer is laid out, runs, and gives the review nothing to say',
    (_, lesson) => {
      const { modelScript, course } = lesson;
      const program = parseScript(modelScript);
      const { build, thresholds } = lesson.robot!;
      const kit = shippedKits.find(({ slug }) => slug === lesson.robot!.kit)!;
      const findings = review(program, {
        kit,
        build,
        thresholds,
        surfaces: thresholds.K3 === undefined ? {} : { K3: surfaces },
        lineWidthMm: narrowestLine(lesson),
        course: courseFacts(course),
      });
      expect(findings.map(({ line, says }) => `${line}: ${says}`)).toEqual([]);
      expect(canRun(program)).toBe(true);
      expect(formatScript(modelScript)).toBe(modelScript);
    },
  );

  it('fit the shape that lesson files are checked against', () => {
    for (const lesson of harbourLessons) {
      const { error } = lessonSchema.validate(JSON.parse(JSON.stringify(lesson)), { convert: false });
      expect([lesson.slug, error?.message]).toEqual([lesson.slug, undefined]);
    }
  });
});

describe('judged in a process of its own', () => {
  let judged: { proofs: LessonProofs[]; proposals: ProposalProof[] };
  beforeAll(() => {
    const output = execFileSync(process.execPath, [bundled('harbourProofs')!], { maxBuffer: 1e7 });
    judged = JSON.parse(output.toString()) as typeof judged;
  }, 600_000);

  it('the sixteen are proved by their model answers, catch every typical fault, and nine of ten usual ones', () => {
    expect(judged.proofs).toHaveLength(16);
    for (const { slug, model, faults, strength } of judged.proofs) {
      expect([slug, model.verdict, model.passes >= model.runs - 1]).toEqual([slug, 'proved', true]);
      expect([slug, faults.filter(({ verdict }) => verdict !== 'fails')]).toEqual([slug, []]);
      expect([slug, strength.share >= 0.9 || strength]).toEqual([slug, true]);
    }
  });

  it('what a guided start proposes is proved on its kit, and its typical faults are not', () => {
    const of = (kit: string) => judged.proposals.filter((one) => one.kit === kit);
    // The Cobble can do all ten; the smaller kit five of them, two by touch.
    expect([of('cobble').length, of('cobble').every(({ verdict }) => verdict !== null)]).toEqual([10, true]);
    expect(of('skiff').filter(({ verdict }) => verdict !== null)).toHaveLength(5);
    for (const { kit, aim, verdict, uncaught } of judged.proposals)
      if (verdict !== null) expect([kit, aim, verdict, uncaught]).toEqual([kit, aim, 'proved', []]);
  });
});
