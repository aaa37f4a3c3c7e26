import { describe, expect, it } from '@jest/globals';
import {
  criticalByRuns,
  followLoop,
  guessedShare,
  levelsBy,
  valuesTried,
  type Lesson,
  type NumberParameter,
  goalsOf,
  knobFactsOf,
  rehearse,
  resultsOfRun,
  tryCircumstances,
  tunedRuns,
  workedPage,
} from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { adviseNext, knobsOf, withKnobs, type Trial } from '@vigilum/core/tuning';
import { wilson } from '@vigilum/core/statistics';
import { harbourLessons, usualLessons } from '../starter/lessons/index.ts';
import { followTheChannel, tideLine } from '../starter/lessons/lines.ts';
import { lessonRobot } from './lessonRobot.ts';

const known = lessonRobot(followTheChannel);

describe('the gain at which a simulated robot just keeps swinging', () => {
  // Closed form: the loop’s gain is 1 where its phase is −180° (Nyquist 1932), with the same delay, lag and slope.
  it.each([10, 15, 25, 40])(
    'at %d % agrees with the closed form within 4 %, and so does the period',
    (speed) => {
      const loop = followLoop(followTheChannel, known, speed)!;
      const found = criticalByRuns(followTheChannel, known, speed, loop)!;
      const [gain, period] = [found.gain / loop.critical!.gain, found.periodS / loop.critical!.periodS];
      console.log(`${speed} %: gain ${gain.toFixed(3)}, period ${period.toFixed(3)} of the closed form`);
      expect(Math.abs(gain - 1)).toBeLessThan(0.04);
      expect(Math.abs(period - 1)).toBeLessThan(0.04);
    },
  );

  it('there is no loop where the lesson’s sensor sees no light', () => {
    const other = usualLessons.find(({ slug }) => slug === 'hold-a-bearing')!;
    expect(followLoop(other, lessonRobot(other), 20)).toBeNull();
    expect(workedPage(other, lessonRobot(other), 20)).toBeNull();
  });
});

describe('what if it were more', () => {
  it('each of the four follows more closely than the one before it, with numbers from one table', () => {
    const { followers } = workedPage(followTheChannel, known, 15)!;
    expect(followers.map(({ kind }) => kind)).toEqual(['two-state', 'P', 'PD', 'PID']);
    for (const { text } of followers) expect(canRun(parseScript(text))).toBe(true);
    const rms = followers.map(({ results }) => results.rms!);
    expect(rms).toEqual([...rms].sort((a, b) => b - a));
    expect(followers.every(({ kept }) => kept)).toBe(true);
    // Faster, the one in proportion alone loses the bend that rate and sum hold.
    const fast = workedPage(followTheChannel, known, 25)!.followers;
    expect(fast.find(({ kind }) => kind === 'P')!.kept).toBe(false);
    expect(fast.find(({ kind }) => kind === 'PID')!.kept).toBe(true);
  });
});

describe('goals and results of the shipped lessons', () => {
  it('every goal of a lesson is told by the run of its model answer, and kept by it', () => {
    let goals = 0;
    for (const lesson of usualLessons) {
      const robot = lessonRobot(lesson);
      const run = rehearse(
        lesson,
        robot,
        parseScript(lesson.modelScript),
        tryCircumstances(lesson, lesson.course.starts[0]!.name, 1),
      );
      const results = resultsOfRun(lesson, run);
      for (const { key, low, high } of goalsOf(lesson)) {
        goals++;
        expect([lesson.slug, key, results[key] !== undefined]).toEqual([lesson.slug, key, true]);
        expect(results[key]).toBeGreaterThanOrEqual(low);
        expect(results[key]).toBeLessThanOrEqual(high);
      }
    }
    expect(goals).toBeGreaterThanOrEqual(10);
  });

  it('every number of every shipped script can be turned a little, and the script still runs', () => {
    let turned = 0;
    for (const lesson of usualLessons) {
      const facts = knobFactsOf(lessonRobot(lesson));
      for (const text of [lesson.modelScript, ...(lesson.rightToo ?? []).map(({ script }) => script)])
        for (const knob of knobsOf(text, facts)) {
          const next = withKnobs(text, { [knob.name]: knob.value + knob.step }, facts);
          expect([lesson.slug, knob.name, canRun(parseScript(next))]).toEqual([lesson.slug, knob.name, true]);
          expect(next).not.toBe(text);
          turned++;
        }
    }
    expect(turned).toBeGreaterThan(150);
  });
});

describe('levels by how tight a lesson is', () => {
  const twisted = (slug: string) => harbourLessons.find((one) => one.slug === slug)!;
  const number = (lesson: Lesson, name: string) =>
    lesson.twist!.parameters.find((one): one is NumberParameter => one.is === 'number' && one.name === name)!;
  const measured = (slug: string, name: string) => {
    const lesson = twisted(slug);
    const parameter = number(lesson, name);
    const found = valuesTried(parameter).map((value) =>
      guessedShare(lesson, lessonRobot(lesson), name, value, 32)!,
    );
    return { parameter, found };
  };

  it('a wider tide line is kinder: three levels, kind first, that cover what was measured', () => {
    const { parameter, found } = measured('tide-line', 'wide');
    expect(found.map(({ value }) => value)).toEqual([20, 22, 24, 26, 28]);
    const { levels, says } = levelsBy(
      parameter,
      [20, 22, 24, 26, 28].map((value, i) => ({
        ...found[i]!,
        value,
        passes: 6 * i,
        runs: 32,
        ...wilson(6 * i, 32),
      })),
    );
    expect(levels!.map(({ ranges }) => ranges.wide)).toEqual([
      { from: 26, to: 28 },
      { from: 24, to: 24 },
      { from: 20, to: 22 },
    ]);
    expect(says).toBe(
      'level 1: 66 % of the guesses pass, level 2: 38 % of the guesses pass, level 3: 9 % of the guesses pass',
    );
    // As it is measured: guesses pass more often, the wider the line.
    expect(found.at(-1)!.passes).toBeGreaterThan(found[0]!.passes);
  });

  it('a number that changes nothing gives no levels, and says so', () => {
    const { parameter, found } = measured('tide-line', 'way');
    expect(levelsBy(parameter, found)).toEqual({
      levels: null,
      says: '“way up to the line” does not make the lesson surely harder: guesses pass about as often at both ends.',
    });
    expect(levelsBy(parameter, found.slice(0, 1)).levels).toBeNull();
    expect(levelsBy(parameter, []).levels).toBeNull();
  });

  it('nothing is measured where there is no such number, or nothing to guess', () => {
    const lesson = twisted('tide-line');
    expect(guessedShare(lesson, lessonRobot(lesson), 'nothing', 1)).toBeNull();
    expect(guessedShare(tideLine, lessonRobot(tideLine), 'wide', 1)).toBeNull();
    const bare = { ...lesson, modelScript: 'stop\n' };
    expect(guessedShare(bare, lessonRobot(lesson), 'wide', 24)).toBeNull();
  });

  it('values lie on the steps of a number, its ends among them', () => {
    const of = (from: number, to: number, step: number) =>
      valuesTried({ is: 'number', name: 'a', says: 'a', unit: '', from, to, step, usual: from });
    expect(of(10, 24, 1)).toEqual([10, 12, 15, 17, 19, 22, 24]);
    expect(of(0.5, 1, 0.1)).toEqual([0.5, 0.6, 0.7, 0.8, 0.9, 1]);
    expect(of(3, 3, 1)).toEqual([3]);
    expect(of(0, 1, 5)).toEqual([0]);
  });
});

describe('a run with other numbers', () => {
  it('is the run of the script with those numbers, and a point that is hopeless is given up', () => {
    const written = withKnobs(followTheChannel.modelScript, { gain: 0.9 });
    const [one] = tunedRuns(
      followTheChannel,
      known,
      followTheChannel.modelScript,
      { knobs: { gain: 0.9 }, from: 3, count: 1 },
      7,
    )!;
    const [same] = tunedRuns(followTheChannel, known, written, { knobs: {}, from: 3, count: 1 }, 7)!;
    expect(one).toEqual(same);
    const hopeless = tunedRuns(
      followTheChannel,
      known,
      followTheChannel.modelScript,
      { knobs: { gain: 0.1 }, from: 0, count: 10 },
      7,
    )!;
    expect(hopeless.map(({ passed }) => passed)).toEqual([false, false, false, false]);
    // A script that cannot run has no runs.
    expect(
      tunedRuns(tideLine, lessonRobot(tideLine), 'drive', { knobs: {}, from: 0, count: 1 }, 1),
    ).toBeNull();
  });
});

describe('advice on the simulated robot', () => {
  /** Does what it is told, on one start and one seed, as a team with sliders does. */
  function tuned(slug: string, from: Record<string, number>, most = 20): Trial[] {
    const lesson = usualLessons.find((one) => one.slug === slug)!;
    const robot = lessonRobot(lesson);
    const facts = knobFactsOf(robot);
    const trials: Trial[] = [];
    let text = withKnobs(lesson.modelScript, from, facts);
    while (trials.length < most) {
      const knobs = knobsOf(text, facts);
      const run = rehearse(
        lesson,
        robot,
        parseScript(text),
        tryCircumstances(lesson, lesson.course.starts[0]!.name, 1),
      );
      trials.push({
        id: String(trials.length),
        at: trials.length,
        source: 'try',
        version: 1,
        knobs,
        shape: 0,
        results: resultsOfRun(lesson, run),
        kept: run.judgements.every(({ verdict }) => verdict === 'holds'),
        runs: 1,
        said: '',
      });
      const advice = adviseNext({ trials, goals: goalsOf(lesson), knobs, source: 'try' });
      if (advice.knob === null || advice.value === null || advice.what === 'done') break;
      text = withKnobs(text, { [advice.knob]: advice.value }, facts);
    }
    return trials;
  }

  it.each([
    ['follow-the-channel', { gain: 0.4, speed: 45 }],
    ['follow-the-channel', { gain: 0.2, speed: 15 }],
    ['follow-the-channel', { gain: 5, speed: 60 }],
    ['tide-line', { speed: 60 }],
    ['stop-short', { 'front threshold': 60 }],
    ['stop-short', { 'front threshold': 6 }],
  ])('%s, begun with %j, is kept in few trials', (slug, from) => {
    const trials = tuned(slug, from);
    console.log(`${slug} ${JSON.stringify(from)}: ${trials.length} trials`);
    expect(trials[0]!.kept).toBe(false);
    expect(trials.at(-1)!.kept).toBe(true);
    expect(trials.length).toBeLessThanOrEqual(10);
  });
});
