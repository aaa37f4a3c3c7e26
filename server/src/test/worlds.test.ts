import { describe, expect, it } from '@jest/globals';
import {
  expectationVaries,
  fairnessOf,
  fairnessReports,
  mendsThatHelp,
  forRobot,
  lessonAt,
  rehearseRun,
  stepsOf,
  withCourse,
  writtenBack,
  runSeed,
  strengthOf,
  strengthReports,
  twistFaults,
  variesInWords,
  WORLDS,
  worldOf,
  type Lesson,
} from '@vigilum/core/lesson';
import { parseScript } from '@vigilum/core/script';
import { usualLessons } from '../starter/lessons/index.ts';
import { shippedKits } from '../starter/starter.ts';
import { lessonRobot } from './lessonRobot.ts';

const lessonOf = (slug: string): Lesson => usualLessons.find((lesson) => lesson.slug === slug)!;
const lanes = lessonOf('count-the-lanes');
const cargo = lessonOf('colours-of-the-cargo');

describe('the task of one run', () => {
  it('is drawn from its seed: the same seed the same, ten tasks in all, each within what was said', () => {
    const seen = new Set<string>();
    for (let i = 0; i < 50; i++) {
      const seed = runSeed(lanes.proof.seed, i);
      const { lesson, values, says } = worldOf(lanes, seed);
      expect(worldOf(lanes, seed).lesson).toBe(lesson);
      expect(values!.lanes).toBeGreaterThanOrEqual(3);
      expect(values!.lanes).toBeLessThanOrEqual(7);
      // What is expected follows what is drawn.
      expect(lesson.expectations[0]).toMatchObject({ kind: 'counts', count: values!.lanes });
      const dark = lesson.course.marks.filter(({ surface }) => surface.name === 'lane line');
      expect(dark).toHaveLength(values!.lanes as number);
      seen.add(says);
    }
    expect(seen.size).toBeGreaterThan(4);
    expect(seen.size).toBeLessThanOrEqual(WORLDS);
    expect(worldOf(lessonOf('hold-a-bearing'), 5)).toEqual({
      lesson: lessonOf('hold-a-bearing'),
      values: null,
      says: '',
    });
  });

  it('may be words: which colours are to be shown, in which order', () => {
    const orders = new Set<string>();
    for (let seed = 0; seed < WORLDS; seed++) {
      const { lesson, values } = worldOf(cargo, seed);
      const first = lesson.expectations[0]!;
      expect(first).toMatchObject({ texts: [values!.one, values!.two, values!.three] });
      orders.add(JSON.stringify(first));
    }
    expect(orders.size).toBeGreaterThan(2);
    expect(expectationVaries(cargo, 0)).toBe(true);
    expect(expectationVaries(cargo, 2)).toBe(false);
    expect(variesInWords(cargo)[0]).toEqual({ says: 'one card', range: 'red, green, blue' });
  });

  it('is told with the run, and has the run’s own course', () => {
    const run = rehearseRun(lanes, lessonRobot(lanes), parseScript(lanes.modelScript), runSeed(1, 3));
    const [, many] = /dark lanes (\d)/.exec(run.task!.drawn)!;
    expect(run.task!.expectations[0]).toMatchObject({ count: Number(many) });
    expect(run.task!.course.marks.length).toBeGreaterThan(3);
  });

  it('of every shipped lesson is sound, and goes along to another kit', () => {
    for (const lesson of usualLessons) {
      if (!lesson.varies) continue;
      expect([lesson.slug, twistFaults({ ...lesson, twist: lesson.varies })]).toEqual([lesson.slug, []]);
      const kit = shippedKits.find(({ slug }) => slug === lesson.robot!.kit)!;
      expect(forRobot(lesson, kit, lesson.robot!.build).varies).toEqual(lesson.varies);
    }
    const broken = { ...cargo.varies!, bindings: [{ at: '/expectations/0/texts/9', value: 'one' }] };
    expect(twistFaults({ ...cargo, twist: broken })).toHaveLength(1);
  });
});

describe('what varies, when the lesson is changed', () => {
  it('lets go of a course that was changed by hand: the proof is on that course', () => {
    const mine = { ...lanes.course, name: 'Ours' };
    const { lesson, freed } = withCourse(lanes, mine);
    expect(freed).toBe(true);
    expect(worldOf(lesson, 3).lesson.course).toBe(mine);
    // What is bound to presses alone goes on, on the new course too.
    const watch = lessonOf('first-watch');
    const moved = withCourse(watch, { ...watch.course, name: 'Deck' }).lesson;
    expect(moved.varies).toEqual(watch.varies);
    expect(worldOf(moved, 3).lesson.course.name).toBe('Deck');
  });

  it('follows an expectation to its new place, and lets go of one that is gone or was changed', () => {
    const [counts, ...rest] = lanes.expectations;
    const back = (expectations: Lesson['expectations']) =>
      writtenBack(lanes, { expectations }).lesson.varies!.bindings;
    const places = (bindings: { at: string }[]) => bindings.map(({ at }) => at);
    expect(places(back([...rest, counts!]))).toEqual([`/expectations/${rest.length}/count`, '/timeLimitS']);
    expect(places(back(rest))).toEqual(['/timeLimitS']);
    expect(places(back([{ kind: 'counts', count: 9, tolerance: 0 }, ...rest]))).toEqual(['/timeLimitS']);
  });

  it('is not asked of a step that has a course or expectations of its own', () => {
    const step = { ...stepsOf(lanes).find(({ kind }) => kind === 'prove')! };
    expect(lessonAt(lanes, step).varies).toBe(lanes.varies);
    const own = { ...step, part: { expectations: lanes.expectations.slice(1) } };
    expect(worldOf(lessonAt(lanes, own), 3).lesson.expectations).toEqual(lanes.expectations.slice(1));
  });
});

describe('fairness', () => {
  const few = { ...cargo, proof: { ...cargo.proof, runs: 24 } };

  it('counts the right answers that are accepted, and shows what was made from the model beside them', () => {
    const reports = [...fairnessReports(few, lessonRobot(few))].map(({ report }) => report);
    const fairness = fairnessOf(reports);
    expect([fairness.accepted, fairness.refused, fairness.share]).toEqual([few.rightToo!.length, 0, 1]);
    expect(reports.filter(({ right }) => !right).map(({ name }) => name)).toContain(
      'The model answer in other words on the display.',
    );
    // Shared out between workers nothing is judged twice and nothing left out.
    const halves = [0, 1].map((k) => [...fairnessReports(few, lessonRobot(few), [k, 2])].length);
    expect(halves[0]! + halves[1]!).toBe(reports.length);
  });

  it('names the sentence that refuses a right answer', () => {
    const strict: Lesson = {
      ...few,
      expectations: [...few.expectations, { kind: 'no faster', mmPerS: 120 }],
      rightToo: [
        { name: 'At 25 %.', script: few.modelScript },
        { name: 'Nonsense.', script: 'drive fast' },
      ],
    };
    const [fast, nonsense] = [...fairnessReports(strict, lessonRobot(strict))].map(({ report }) => report);
    expect(fast!.verdict).toBe('fails');
    expect(fast!.refusedBy).toEqual([
      { expectation: few.expectations.length, runs: 24, says: expect.stringMatching(/at its fastest/) },
    ]);
    expect(nonsense!.verdict).toBe('cannot run');
    expect(fairnessOf([fast!, nonsense!]).share).toBe(0);
  });

  it('a break that the lesson calls right as well is no fault that was missed', () => {
    const lesson = { ...lessonOf('bump-and-turn'), timeLimitS: 30 };
    const judge = (one: Lesson) => {
      const quick = { ...one, proof: { ...one.proof, runs: 24 }, expectations: one.expectations.slice(0, 1) };
      return strengthOf(
        quick,
        [...strengthReports(quick, lessonRobot(one), undefined, [0, 4])].map((r) => r.report),
      );
    };
    const [without, all] = [judge({ ...lesson, accepts: [] }), judge(lesson)];
    expect(all.missed + all.rightToo).toBe(without.missed);
  });
});

describe('a mend', () => {
  const tide = lessonOf('tide-line');
  const model = tide.modelScript;
  const helps = (text: string, ...mended: string[]) => mendsThatHelp(tide, lessonRobot(tide), text, mended);

  it('is offered where the lesson goes better for it, or no worse', () => {
    expect(helps(model.replace('stop\n', ''), model)).toEqual([true]);
    expect(helps(model.replace('<', '>'), model)).toEqual([true]);
    expect(helps(model, model.replace('30 %', '25 %'))).toEqual([true]);
  });

  it('is not offered where it would break a script that works', () => {
    expect(
      helps(model, model.replace('<', '>'), model.replace('30 %', '100 %'), model.replace('stop', 'stopp')),
    ).toEqual([false, false, false]);
  });

  it('of a script that cannot run is one that lets it run, or leaves fewer faults', () => {
    const two = model.replace('stop', 'stopp').replace('drive', 'drve');
    expect(helps(two, two.replace('stopp', 'stop'), model, two)).toEqual([true, true, false]);
  });
});

describe('a script’s own declaration', () => {
  it('sets the sensor: a part that can tell colours tells them, whatever it was set to', () => {
    const seen = `sensor hold is colour on K4\nwait 0.5 s\nif hold is white\n  show "white"\nelse if hold is nothing\n  show "nothing"\nelse\n  show "other"\nend`;
    const run = rehearseRun(cargo, lessonRobot(cargo), parseScript(seen), 3);
    expect(run.run.events.find(({ kind }) => kind === 'display')!.text).toMatch(/white|nothing/);
  });

  it('says in which unit a distance is shown and compared', () => {
    const quay = lessonOf('stop-short');
    const shows = (unit: string) => {
      const text = `sensor front is distance${unit} on K2\nwait 0.5 s\nshow front`;
      const { run } = rehearseRun({ ...quay, varies: undefined }, lessonRobot(quay), parseScript(text), 3);
      return parseFloat(run.events.find(({ kind }) => kind === 'display')!.text);
    };
    const cm = shows('');
    expect(cm).toBeGreaterThan(80);
    expect(cm).toBeLessThan(120);
    // 1 in = 25.4 mm exactly.
    expect(shows(' in in')).toBeCloseTo(cm / 2.54, 1);
    expect(shows(' in mm')).toBeCloseTo(cm * 10, 0);
    const moved = parseScript(
      'sensor front is distance in in on K2\nlet here = 0 cm\nset here to front\nwait until front > here + 5',
    );
    expect(JSON.stringify(moved.steps)).toContain('127');
  });
});
