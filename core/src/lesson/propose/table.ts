import { buildCourse, familyOf } from '../../course/index.ts';
import { tableAndNothing } from '../usualReadings.ts';
import type { Ink, LessonAim } from './propose.ts';
import type { Wanted } from './robotFor.ts';
import { front, nose } from './usualSensors.ts';

const pierEyes: Wanted[] = [
  { name: 'left floor', kind: 'light', facing: 'down', rightMm: -60 },
  { name: 'right floor', kind: 'light', facing: 'down', rightMm: 60 },
];
const patrol = (ink: Ink, seen: string, back = `drive -${ink.pace(130)} % for 12 cm`): string =>
  `${ink.declared}repeat
  drive ${ink.pace(110)} %
  wait until ${seen}
  stop
  wait 0.5 s
  ${back}
  turn right 180 deg
end
`;
const patrolWords = {
  brief: 'Beyond the edge nothing reflects: the number falls to almost nothing. That is how it knows.',
  predict: 'How far over the edge will its nose be when it stands? How far are the wheels from it?',
  script: 'Drive, wait for one of the two eyes **or** the wall, stop, back off, turn round, again.',
  scriptHints: [
    'One eye in the middle sees a slanting edge too late: a wheel goes over first.',
    '`or`, not `and`: one reason to stop is enough.',
  ],
  watch: 'Watch which eye sees the edge first.',
  reflect: 'What happens at twice the speed? Where does the limit come from?',
  extend: 'Turn by a different angle each time, so that it finds the whole table.',
  homework:
    'Draw the robot from above at a slanting edge. Mark the sensor, both wheels, and where it must stop.',
};

const pier = buildCourse(familyOf('pier'));

/** Both eyes are read over the table and past its edge, and each has a threshold of its own. */
const overTheEdge = ({ sockets }: Ink) => ({
  read: tableAndNothing(pier.base),
  thresholds: { [sockets[0]!]: 30, [sockets[1]!]: 30 },
  words: {
    ...patrolWords,
    reads: [
      {
        title: 'Read table and nothing, left',
        minutes: 4,
        decides: { title: 'Decide on a threshold, left', minutes: 2 },
      },
      {
        socket: sockets[1]!,
        title: 'Read table and nothing, right',
        text: 'The same with the right eye: two of one kind seldom read the same.',
        minutes: 4,
        decides: { title: 'Decide on a threshold, right', minutes: 2 },
      },
    ],
  },
});

export const stayOnTable: LessonAim = {
  id: 'stay-on-the-table',
  name: 'stay on the table',
  says: 'Go up and down a table without going over its edge.',
  recipes: [
    {
      takes: [...pierEyes, front],
      write: (ink) => ({
        title: 'Stay on the table',
        aim: 'The robot goes up and down the table between wall and edge and never goes over.',
        skills: ['sees an edge by missing light', 'joins conditions with or'],
        course: pier,
        modelScript: patrol(ink, 'left floor < threshold or right floor < threshold or front < 15 cm'),
        expectations: [
          { kind: 'never over the edge' },
          { kind: 'never touches' },
          { kind: 'still running', seconds: 30 },
          { kind: 'travels', atLeastMm: 1500 },
        ],
        timeLimitS: 32,
        faults: (same) => [
          { name: 'watches the wall only', script: patrol(same, 'front < 15 cm') },
          {
            name: 'wants all at once',
            script: patrol(same, 'left floor < threshold and right floor < threshold and front < 15 cm'),
          },
          {
            name: 'drives on where it should back off',
            script: patrol(
              same,
              'left floor < threshold or right floor < threshold or front < 15 cm',
              `drive ${same.pace(130)} % for 12 cm`,
            ),
          },
        ],
        ...overTheEdge(ink),
      }),
    },
    {
      takes: [...pierEyes, nose],
      write: (ink) => ({
        title: 'Stay on the table',
        aim: 'The robot goes up and down the table between wall and edge and never goes over.',
        skills: ['sees an edge by missing light', 'joins conditions with or'],
        course: pier,
        modelScript: patrol(ink, 'left floor < threshold or right floor < threshold or nose is pressed'),
        expectations: [
          { kind: 'never over the edge' },
          { kind: 'still running', seconds: 30 },
          { kind: 'travels', atLeastMm: 1500 },
        ],
        timeLimitS: 32,
        faults: (same) => [
          { name: 'watches the wall only', script: patrol(same, 'nose is pressed') },
          {
            name: 'wants all at once',
            script: patrol(same, 'left floor < threshold and right floor < threshold and nose is pressed'),
          },
          {
            name: 'drives on where it should back off',
            script: patrol(
              same,
              'left floor < threshold or right floor < threshold or nose is pressed',
              `drive ${same.pace(130)} % for 12 cm`,
            ),
          },
        ],
        ...overTheEdge(ink),
      }),
    },
  ],
};
