import { describe, expect, it } from '@jest/globals';
import { stageNames, type Stage } from '../classroom/index.ts';
import { newStep, stepsOf, type Lesson, type LessonStep, type StepKind } from '../lesson/index.ts';
import { stepAt, stripOf, wayTo } from './strip.ts';

const lessonOf = (...kinds: StepKind[]): Lesson => {
  const steps = kinds.reduce<LessonStep[]>((list, kind) => [...list, newStep(kind, list)], []);
  return { steps, read: { burst: 20, tasks: [] }, floor: { trials: 3, landmark: '' } } as unknown as Lesson;
};
const stages = (states: Partial<Record<Stage['stage'], Stage['state']>>): Stage[] =>
  stageNames.map((stage) => ({
    stage,
    state: states[stage] ?? 'none',
    figure: states[stage] ? '7' : '',
    says: '',
    mend: '',
  }));
const lesson = lessonOf('brief', 'wire', 'script', 'predict', 'try', 'script', 'try', 'reflect', 'homework');

describe('the way through a lesson', () => {
  it('is found by the name of a step, or by the first of its kind', () => {
    expect(stepAt(lesson, 'script-2')?.id).toBe('script-2');
    expect(stepAt(lesson, 'script')?.id).toBe('script');
    expect(stepAt(lesson, 'try')).toBe(stepsOf(lesson)[4]);
    expect(stepAt(lesson, 'floor')).toBeUndefined();
    expect(stepAt(lesson, '')).toBeUndefined();
  });

  it('leads on to the next step whatever its kind, so that none is passed over', () => {
    const from = (id: string) => stepAt(lesson, id);
    expect(wayTo(lesson, from('script'), 'try')?.id).toBe('predict');
    expect(wayTo(lesson, from('predict'), 'try')?.id).toBe('try');
    expect(wayTo(lesson, from('script-2'), 'try')?.id).toBe('try-2');
  });

  it('leads back to the nearest step of that kind', () => {
    expect(wayTo(lesson, stepAt(lesson, 'try-2'), 'wire')?.id).toBe('wire');
    expect(wayTo(lesson, stepAt(lesson, 'reflect'), 'script')?.id).toBe('script-2');
    expect(wayTo(lesson, stepAt(lesson, 'try'), 'floor')).toBeUndefined();
    expect(wayTo(lesson, undefined, 'wire')?.id).toBe('brief');
  });
});

describe('the watch strip', () => {
  const strip = (states: Parameters<typeof stages>[0], place: string | null = null) =>
    stripOf(lesson, stages(states), place);

  it('has a name for each step, and tells two of a kind apart', () => {
    expect(strip({}).map(({ word }) => word)).toEqual([
      'Brief',
      'Wire',
      'Script',
      'Predict',
      'Try',
      'Script 2',
      'Try 2',
      'Reflect',
      'Homework',
    ]);
  });

  it('gives a working step the state and the number of its stage', () => {
    const [, wire, script] = strip({ wire: 'done', script: 'fault' });
    expect([wire!.state, wire!.figure, script!.state]).toEqual(['done', '7', 'fault']);
  });

  it('counts a text as done when something after it was begun, or the team went on from it', () => {
    const states = (given: ReturnType<typeof strip>) => given.map(({ id, state }) => `${id} ${state}`);
    expect(states(strip({}))).toContain('brief none');
    expect(states(strip({ wire: 'done' }))).toContain('brief done');
    expect(states(strip({ wire: 'done' }))).toContain('predict none');
    expect(states(strip({ wire: 'done' }, 'homework'))).toEqual(
      expect.arrayContaining(['brief done', 'predict done', 'reflect done', 'homework none']),
    );
  });

  it('does not take a stage that is only the next to do for begun', () => {
    expect(strip({ wire: 'now' })[0]!.state).toBe('none');
  });
});
