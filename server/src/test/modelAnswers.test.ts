import { describe, expect, it } from '@jest/globals';
import { canRun, formatScript, parseScript, review } from '@vigilum/core/script';
import { simulate } from '@vigilum/core/sim';
import { simRobot } from '@vigilum/core/lesson';
import { bySocket } from '@vigilum/core/sensing';
import { cobbleBuild } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { modelAnswers, type ModelAnswer } from '../starter/modelAnswers.ts';
import { skiff, skiffBuild } from '../starter/skiff.ts';
import { tideLine } from '../starter/tideLine.ts';

/** The robot that an answer is for: the Cobble with the answer's parts, the Skiff's lookout for beacons. */
function robotOf(answer: ModelAnswer) {
  if (answer.fittings.length > 0)
    return { kit: cobble, build: { ...cobbleBuild, fittings: answer.fittings } };
  const fittings = skiffBuild.fittings.map((f) =>
    f.sensorId === 'lookout' ? { ...f, mode: 'beacon' as const } : f,
  );
  return { kit: skiff, build: { ...skiffBuild, fittings } };
}

const surfaces = { low: { name: 'line', mean: 20, sd: 1.5 }, high: { name: 'boards', mean: 76, sd: 2 } };

describe('the model answers of the sixteen lessons', () => {
  it('are sixteen, the shipped lesson’s among them', () => {
    expect(modelAnswers).toHaveLength(16);
    expect(modelAnswers.find(({ slug }) => slug === tideLine.slug)!.script).toBe(tideLine.modelScript);
  });

  it.each(modelAnswers.map((answer) => [answer.title, answer] as const))(
    '%s: no false alarm',
    (_, answer) => {
      const program = parseScript(answer.script);
      const read: Record<string, typeof surfaces> =
        bySocket(answer.thresholds, 'K3') === undefined ? {} : { K3: surfaces };
      const findings = review(program, { ...robotOf(answer), ...answer, surfaces: read });
      expect(findings).toEqual([]);
      expect(canRun(program)).toBe(true);
      expect(formatScript(answer.script)).toBe(answer.script);
    },
  );

  it.each(modelAnswers.map((answer) => [answer.title, answer] as const))(
    '%s: runs without a slip',
    (_, answer) => {
      const { kit, build } = robotOf(answer);
      const run = simulate({
        program: parseScript(answer.script),
        course: tideLine.course,
        robot: simRobot({ kit, build, sets: [], thresholds: {} }, tideLine),
        thresholds: answer.thresholds,
        circumstances: { start: tideLine.course.starts[0]!, lightShift: 0, mismatch: 0, seed: 5 },
        timeLimitMs: 6000,
      });
      expect(run.ended.how).not.toBe('error');
    },
  );
});
