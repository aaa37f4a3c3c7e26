import { describe, expect, it } from '@jest/globals';
import { fullKit, kit, lesson } from '../test/index.ts';
import {
  canonical,
  kitFit,
  lessonDifferences,
  materialsFor,
  newStep,
  proposedCautions,
  sameJudged,
  stepsOf,
  type Lesson,
} from './index.ts';

const asking = (...kinds: Lesson['need']['kind'][]): Lesson => ({
  ...lesson,
  need: { kind: kinds[0]!, socket: 'K1', name: 'a' },
  also: kinds.slice(1).map((kind, i) => ({ kind, socket: `K${i + 2}`, name: `b${i}` })),
});

describe('whether a kit can do a lesson', () => {
  it('names the part that reads each sensor', () => {
    const fit = kitFit(lesson, kit);
    expect([fit.grade, fit.sensors[0]!.part]).toEqual(['fits', 'floor eye']);
    expect(fit.says).toBe('The Test has all that it takes.');
  });

  it('offers what can stand in, with what it costs (common practice)', () => {
    const bumper = { ...kit, sensors: kit.sensors.filter(({ id }) => id === 'bumper') };
    const [front] = kitFit(asking('distance'), bumper).sensors;
    expect([front!.grade, front!.instead?.kind]).toEqual(['with a substitute', 'touch']);
    expect(front!.says).toMatch(/only by bumping/);
    // Proximity comes before touch where the kit has both.
    const near = {
      ...bumper,
      sensors: [
        ...bumper.sensors,
        { id: 'n', name: 'near eye', modes: [{ ...kit.sensors[0]!.modes[0]!, kind: 'proximity' as const }] },
      ],
    };
    expect(kitFit(asking('distance'), near).sensors[0]!.instead?.kind).toBe('proximity');
    expect(kitFit(asking('colour'), kit).sensors[0]!.instead).toMatchObject({
      kind: 'light',
      part: 'floor eye',
    });
    expect(kitFit(asking('heading'), kit).sensors[0]!.instead?.kind).toBe('wheel');
  });

  it('says no where nothing stands in, or the sockets do not suffice', () => {
    const bare = { ...kit, sensors: [] };
    expect(kitFit(asking('touch'), bare)).toMatchObject({
      grade: 'missing',
      says: 'The Test cannot do this lesson.',
    });
    const many = kitFit(asking('light', 'touch', 'light', 'light'), kit);
    expect(many.says).toBe('The Test has 3 sockets for sensors; the lesson takes 4.');
    expect(kitFit(asking('light', 'distance', 'heading'), fullKit).grade).toBe('fits');
  });
});

describe('cautions that a lesson calls for', () => {
  const because = (given: Partial<Lesson>) =>
    proposedCautions({ ...lesson, ...given }).map((one) => one.because);

  it('follow from what it does, and end with the deferral to school rules', () => {
    expect(because({})).toEqual([
      'robots run on the floor',
      'wheels turn',
      'batteries are charged between runs',
      'always',
    ]);
    expect(proposedCautions(lesson).at(-1)!.says).toMatch(/^School rules/);
  });

  it.each<[string, Partial<Lesson>]>([
    ['the course ends in a drop', { course: { ...lesson.course, rim: 'drop' } }],
    ['robots push', { expectations: [{ kind: 'pushes out', zone: 'island' }] }],
    ['lamps are used', { modelScript: 'lamp red\n' }],
    ['infrared is sent out', { need: { kind: 'proximity', socket: 'K1', name: 'near' } }],
  ])('%s', (reason, given) => {
    expect(because({})).not.toContain(reason);
    expect(because(given)).toContain(reason);
  });

  it('leave the floor out where no robot runs on it', () => {
    const steps = [newStep('script', [])];
    expect(because({ steps, floor: { trials: 0, landmark: '' } })).toEqual(['wheels turn', 'always']);
  });
});

describe('materials for a class', () => {
  it('are a robot and a tablet for each team, a course for every four', () => {
    const count = (teams: number, name: string) =>
      materialsFor(lesson, teams).find((one) => one.name === name)?.count;
    expect([1, 4, 5, 8, 9].map((teams) => count(teams, 'course'))).toEqual([1, 1, 2, 2, 3]);
    expect([count(8, 'robot'), count(8, 'tablet'), count(8, 'sticky notes')]).toEqual([8, 8, 8]);
  });

  it('say how much tape of what width, and what to measure with', () => {
    const list = materialsFor(lesson, 4);
    expect(list.find(({ name }) => name.startsWith('tape'))?.note).toMatch(/^0\.\d m each, \d+ mm wide/);
    expect(list.map(({ name }) => name)).toContain('ruler');
    const none = materialsFor({ ...lesson, floor: { trials: 0, landmark: '' } }, 4).map(({ name }) => name);
    expect(none).not.toContain('ruler');
    expect(none).not.toContain('stopwatch');
  });

  it('give every team what it reads with, each thing once', () => {
    const reads: Lesson = {
      ...asking('distance', 'heading', 'colour'),
      floor: { trials: 3, landmark: 'near-edge' },
      steps: [
        newStep('read', []),
        { ...newStep('read', []), id: 'turns', part: { socket: 'K2' } },
        {
          ...newStep('read', []),
          id: 'cards',
          part: {
            socket: 'K3',
            tasks: [
              { surface: 'red card', how: '' },
              { surface: 'floor', how: '' },
            ],
          },
        },
      ],
    };
    const list = materialsFor(reads, 8);
    const count = (name: string) => list.filter((one) => one.name === name).map((one) => one.count);
    expect([
      count('ruler'),
      count('flat board'),
      count('set square'),
      count('red card'),
      count('floor'),
    ]).toEqual([[8], [8], [8], [8], []]);
  });

  it('put catchers round a table', () => {
    const table = { ...lesson, course: { ...lesson.course, rim: 'drop' as const } };
    expect(materialsFor(table, 8).find(({ name }) => name === 'catcher')?.count).toBe(8);
  });
});

describe('two versions of a lesson', () => {
  const steps = stepsOf(lesson);
  const written: Lesson = { ...lesson, steps };

  it('do not differ when only the order of keys does', () => {
    const shuffled = Object.fromEntries(Object.entries(written).reverse()) as unknown as Lesson;
    expect(lessonDifferences(written, shuffled)).toEqual([]);
    expect(canonical({ b: [1, { d: 1, c: 2 }], a: 1 })).toBe('{"a":1,"b":[1,{"c":2,"d":1}]}');
  });

  it('are told part by part, older first', () => {
    const [title, cautions] = lessonDifferences(written, {
      ...written,
      title: 'Other',
      cautions: ['Careful.'],
    });
    expect(title).toEqual({ where: 'title', says: 'changed', before: lesson.title, after: 'Other' });
    expect(cautions!.after).toBe('Careful.');
  });

  it('name steps that came, went, moved or changed', () => {
    const fresh = { ...newStep('reflect', steps), title: 'Think', text: 'Why?' };
    const says = (next: Lesson['steps']) =>
      lessonDifferences(written, { ...written, steps: next! }).map(
        ({ where, says: what }) => `${where}: ${what}`,
      );
    expect(says([...steps, fresh])).toEqual(['step Think: added']);
    expect(says(steps.slice(1))).toEqual(['step Brief: removed']);
    expect(says([steps[1]!, steps[0]!, ...steps.slice(2)])).toEqual(['order of the steps: changed']);
    expect(says([{ ...steps[0]!, text: 'New.', minutes: 9 }, ...steps.slice(1)])).toEqual([
      'step Brief: text changed',
      'step Brief: minutes changed',
    ]);
  });

  it('share a proof only while nothing that is judged has changed', () => {
    expect(sameJudged(written, { ...written, title: 'Other', steps: [], aim: 'x', skills: ['y'] })).toBe(
      true,
    );
    for (const change of [
      { modelScript: 'stop\n' },
      { timeLimitS: 3 },
      { expectations: [] },
      { course: { ...lesson.course, widthMm: 401 } },
      { twist: { parameters: [], constraints: [], bindings: [] } },
    ])
      expect(sameJudged(written, { ...written, ...change })).toBe(false);
  });
});
