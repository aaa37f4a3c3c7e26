import { describe, expect, it } from '@jest/globals';
import { courseFacts, narrowestLine, prove, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
import { canRun, formatScript, parseScript, review } from '@vigilum/core/script';
import { shippedKits } from '../starter/starter.ts';
import { harbourLessons } from '../starter/lessons/index.ts';

const surfaces = { low: { name: 'line', mean: 20, sd: 1.5 }, high: { name: 'boards', mean: 76, sd: 2 } };

function robotOf({ robot }: Lesson): KnownRobot {
  const { kit, build, thresholds } = robot!;
  return { kit: shippedKits.find(({ slug }) => slug === kit)!, build, sets: [], thresholds };
}

const each = harbourLessons.map((lesson) => [lesson.title, lesson] as const);

describe('the sixteen lessons of the harbour year', () => {
  it('are sixteen, each with a robot and three typical faults or more', () => {
    expect(new Set(harbourLessons.map(({ slug }) => slug)).size).toBe(16);
    for (const { robot, faults } of harbourLessons) {
      expect(robot).toBeDefined();
      expect(faults!.length).toBeGreaterThanOrEqual(3);
    }
  });

  it.each(each)('%s: its model answer is laid out, runs, and gives the review nothing to say', (_, lesson) => {
    const { modelScript, course } = lesson;
    const program = parseScript(modelScript);
    const { kit, build, thresholds } = robotOf(lesson);
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
  });

  it.each(each)('%s: its model answer is proved', (_, lesson) => {
    const { runs, seed } = lesson.proof;
    const { proof } = prove(lesson, robotOf(lesson), parseScript(lesson.modelScript), seed, runs);
    expect({ verdict: proof.verdict, passes: proof.passes }).toEqual({ verdict: 'proved', passes: runs });
  });

  it.each(each)('%s: every typical fault is caught', (_, lesson) => {
    for (const { name, script } of lesson.faults!) {
      const program = parseScript(script);
      expect([name, canRun(program)]).toEqual([name, true]);
      const { proof } = prove(lesson, robotOf(lesson), program, lesson.proof.seed, 16);
      expect([name, proof.verdict]).toEqual([name, 'fails']);
    }
  });
});
