import { describe, expect, it } from '@jest/globals';
import type { Kit } from '@vigilum/core/sensing';
import { cupboardsOf, robotsChoices, robotsSaid } from './robotsChoice.ts';

const kit = (slug: string, name: string) => ({ slug, name }) as Kit;
const kits = [kit('heron', 'Heron'), kit('teal', 'Teal')];
const robot = (of: string, cupboard: string, archived = false) => ({ kit: { slug: of }, cupboard, archived });

describe('the robots of a class', () => {
  const robots = [
    robot('heron', 'Room 12'),
    robot('heron', 'room 12'),
    robot('heron', ''),
    robot('heron', 'Room 12', true),
    robot('teal', 'Cellar', true),
  ];

  it('are those of a cupboard, however it is spelt and without what is put away', () => {
    expect(cupboardsOf(robots, 'heron')).toEqual([
      { name: 'Room 12', robots: 2 },
      { name: '', robots: 1 },
    ]);
    expect(cupboardsOf(robots, 'teal')).toEqual([]);
  });

  it('are offered with what is there first, new ones of every kit last', () => {
    expect(robotsChoices(kits, robots).map(({ says }) => says)).toEqual([
      'Heron in Room 12: the 2 that are there',
      'Heron: the 1 that is there',
      'Heron: new ones',
      'Teal: new ones',
    ]);
  });

  it('are said with what comes of it', () => {
    const [there] = robotsChoices(kits, robots);
    expect(robotsSaid(there!, 'Heron', 2)).toMatch(/^Each team gets one of them/);
    expect(robotsSaid(there!, 'Heron', 3)).toMatch(/^2 are there, 1 new Heron robot is added/);
    expect(robotsSaid(there!, 'Heron', 5)).toMatch(/3 new Heron robots are added/);
    const fresh = robotsChoices(kits, robots)[3]!;
    expect(robotsSaid(fresh, 'Teal', 4)).toBe('4 new Teal robots, one for each team.');
    expect(robotsSaid(fresh, 'Teal', 0)).toBe('Each team gets a new Teal.');
  });
});
