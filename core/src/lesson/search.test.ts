import { describe, expect, it } from '@jest/globals';
import { inOrder, lessonMatches, type Lesson, type LessonSearch } from './index.ts';

const lesson = (slug: string, more: Partial<Lesson>): Lesson =>
  ({
    slug,
    title: slug,
    aim: '',
    minutes: 50,
    need: { kind: 'light', socket: 'K3', name: 'floor' },
    ...more,
  }) as Lesson;
const lessons = [
  lesson('tide', { title: 'Tide line', aim: 'Stop at the line.', skills: ['stops at a line'] }),
  lesson('quai', {
    title: 'Au bord du quai, été',
    also: [{ kind: 'colour', socket: 'K4', name: 'seen' }],
    minutes: 40,
  }),
  lesson('wall', {
    title: 'Stop short',
    need: { kind: 'distance', socket: 'K2', name: 'front' },
    robot: { kit: 'raft' } as Lesson['robot'],
    minutes: 45,
  }),
];
const all: LessonSearch = { words: '', kind: null, kit: null, skill: null };
const found = (search: Partial<LessonSearch>) =>
  lessons.filter((one) => lessonMatches(one, { ...all, ...search })).map(({ slug }) => slug);

describe('looking for a lesson', () => {
  it('finds every word wherever it stands, whatever the case and the accents', () => {
    expect(found({})).toEqual(['tide', 'quai', 'wall']);
    expect(found({ words: 'STOP line' })).toEqual(['tide']);
    expect(found({ words: 'ete' })).toEqual(['quai']);
    expect(found({ words: ' reflected   light ' })).toEqual(['tide', 'quai']);
    expect(found({ words: 'stop' })).toEqual(['tide', 'wall']);
    expect(found({ words: '.*' })).toEqual([]);
  });

  it('keeps those of a sensor, a kit, a skill, and of all together', () => {
    expect(found({ kind: 'colour' })).toEqual(['quai']);
    expect(found({ kind: 'light' })).toEqual(['tide', 'quai']);
    expect(found({ kit: 'raft' })).toEqual(['wall']);
    expect(found({ skill: 'stops at a line' })).toEqual(['tide']);
    expect(found({ skill: 'stops at a line', kind: 'distance' })).toEqual([]);
  });

  it('puts them in order and leaves alike ones as they stood', () => {
    const order = (by: Parameters<typeof inOrder>[1]) =>
      inOrder(lessons, by, ({ slug }) => (slug === 'wall' ? 9 : null)).map(({ slug }) => slug);
    expect(order('as they stand')).toEqual(['tide', 'quai', 'wall']);
    expect(order('title')).toEqual(['quai', 'wall', 'tide']);
    expect(order('minutes')).toEqual(['quai', 'wall', 'tide']);
    expect(order('newest')).toEqual(['wall', 'tide', 'quai']);
  });
});
