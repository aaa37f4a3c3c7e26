import { describe, expect, it } from '@jest/globals';
import { buildCourse, courseFaults, courseFamilies, familyOf, type Course } from '../course/index.ts';
import { lessonFaults, type Lesson } from './index.ts';

const course = (change: Partial<Course> = {}): Course => ({ ...buildCourse(familyOf('channel')), ...change });
const box = { id: 'crate', name: 'crate', xMm: 1, yMm: 1, widthMm: 9, depthMm: 9 };
const says = (faults: readonly { field: string; says: string }[]) =>
  faults.map(({ field, says: words }) => `${field}: ${words}`);

describe('what the parts of a course ask of each other', () => {
  it('every family keeps', () => {
    for (const family of courseFamilies)
      expect([family.id, courseFaults(buildCourse(family))]).toEqual([family.id, []]);
  });

  it('is told with the place of the second of two', () => {
    const start = course().starts[0]!;
    expect(says(courseFaults(course({ boxes: [box, { ...box, name: 'other' }, box] })))).toEqual([
      'boxes.1: two boxes are called “crate”',
      'boxes.2: two boxes are called “crate”',
    ]);
    expect(says(courseFaults(course({ starts: [start, { ...start }] })))).toEqual([
      `starts.1: two starts are called “${start.name}”`,
    ]);
  });

  it.each([99, -1])('a track that follows mark %i of none follows nothing', (mark) => {
    const faults = courseFaults(course({ tracks: [{ id: 't', name: 'the way', mark, side: 'left' }] }));
    expect(says(faults)).toEqual([
      'tracks.0.mark: the track “the way” must follow a stripe, path or arc of the marks',
    ]);
  });
});

describe('what the parts of a lesson ask of each other', () => {
  const step = {
    id: 'try',
    kind: 'try',
    title: '',
    text: '',
    minutes: 1,
    expects: '',
    hints: [],
    cautions: [],
  };
  const lesson = (change: object): Lesson => ({ course: course(), ...change }) as unknown as Lesson;
  it('its own course, those of its steps, its steps and the words of its twist', () => {
    expect(lessonFaults(lesson({}))).toEqual([]);
    const faults = lessonFaults(
      lesson({
        course: course({ boxes: [box, box] }),
        steps: [step, step, { ...step, id: 'own', part: { course: course({ boxes: [box, box] }) } }],
        twist: { parameters: [{ is: 'word', name: 'side', words: ['left', 'right', 'left'] }] },
      }),
    );
    expect(says(faults)).toEqual([
      'course.boxes.1: two boxes are called “crate”',
      'steps.1: two steps are called “try”',
      'steps.2.part.course.boxes.1: two boxes are called “crate”',
      'twist.parameters.0.words.2: two words of a parameter are called “left”',
    ]);
  });
});
