import { buildCourse, familyOf } from '../../course/index.ts';
import type { Ink, LessonAim } from './propose.ts';
import { front } from './usualSensors.ts';

const slowing = (ink: Ink, leave = 88): string =>
  `${ink.declared}zero heading
repeat until gyro >= ${leave}
  wheels 4 + 0.5 * (90 - gyro) and -4 - 0.5 * (90 - gyro)
end
stop
`;

export const turnToHeading: LessonAim = {
  id: 'turn-to-a-heading',
  name: 'turn to a heading',
  says: 'Turn by a measured angle without overshooting.',
  recipes: [
    {
      takes: [{ name: 'gyro', kind: 'heading', facing: 'up' }],
      write: (ink) => ({
        title: 'A quarter to the right',
        aim: 'The robot turns to the right by 90° and does not overshoot.',
        skills: ['zeroes a sensor before using it', 'slows down as it comes near'],
        course: buildCourse(familyOf('open-water')),
        modelScript: slowing(ink),
        expectations: [
          { kind: 'net turn', deg: 90, toleranceDeg: 5 },
          { kind: 'formula', says: 'Never turns past 96°', formula: 'always turned < 96' },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 10 },
        ],
        conditions: { headingAtStart: [-40, 40], driftPerS: [-0.1, 0.1] },
        floor: { measures: ['turn'] },
        timeLimitS: 12,
        faults: (same) => [
          {
            name: 'turns at full power',
            script: `${same.declared}zero heading\nspin right at 100 %\nwait until gyro >= 90\nstop\n`,
          },
          { name: 'forgets to zero', script: slowing(same).replace('zero heading\n', '') },
          {
            name: 'tests for equal',
            script: `${same.declared}zero heading\nspin right at 60 %\nwait until gyro = 90\nstop\n`,
          },
        ],
        words: {
          brief:
            'The sensor adds up every turn since it was zeroed: right counts up. The robot has momentum: it turns on after the stop.',
          predict: 'Full power until 90: what will the protractor say?',
          script:
            'Zero the heading, then turn more slowly the nearer you come, and leave the loop just before 90.',
          scriptHints: [
            'What is left is `90 - gyro`. Make the speed follow it.',
            'Below a few percent a motor does not turn: add a least speed, or it stands short for ever.',
            'Leave at 88: it rolls on.',
          ],
          watch: 'Watch how the rate of turn falls as the heading comes near 90.',
          reflect: 'Why is a turning value never tested for equal?',
          extend: 'Turn by a half and by a full turn with the same script and one number changed.',
          homework:
            'At 60 degrees a second the robot looks every 10 ms. By how much does the heading move between two looks?',
        },
      }),
    },
  ],
};

const looking = (ink: Ink, choose: '>' | '<' = '>', second = 180): string =>
  `${ink.declared}motor scanner is turret on ${ink.turret}
let left room = 0 cm
let right room = 0 cm
turret left 90 deg
wait 1 s
set left room to front
turret right ${second} deg
wait 1 s
set right room to front
turret ahead
if left room ${choose} right room
  turn left 90 deg
else
  turn right 90 deg
end
drive ${ink.pace(150)} % for 25 cm
`;

export const chooseSide: LessonAim = {
  id: 'choose-a-side',
  name: 'choose a side',
  says: 'Look to both sides and take the roomier way.',
  recipes: [
    {
      takes: [{ ...front, turret: true }],
      write: (ink) => ({
        title: 'Look to both sides',
        aim: 'The robot looks left and right with its turret and takes the roomier way.',
        skills: [
          'keeps a reading in a value and compares it later',
          'lets a sensor settle before reading it',
        ],
        course: buildCourse(familyOf('fork')),
        modelScript: looking(ink),
        expectations: [
          { kind: 'ends in', zone: 'roomy' },
          { kind: 'never touches' },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 14 },
        ],
        conditions: { alongMm: [-15, 15], acrossMm: [-15, 15] },
        floor: { measures: ['turn'] },
        timeLimitS: 16,
        faults: (same) => [
          { name: 'takes the narrower side', script: looking(same, '<') },
          { name: 'looks ahead instead of right', script: looking(same, '>', 90) },
          {
            name: 'always goes left',
            script: `${same.declared}wait 2.5 s\nturn left 90 deg\ndrive ${same.pace(150)} % for 25 cm\n`,
          },
        ],
        words: {
          brief: 'One sensor can look both ways if it remembers what it saw first.',
          predict: 'Which way will it take from start A, and which from start B?',
          script: 'Look left, wait, keep the number. Look right, wait, keep the number. Look ahead. Choose.',
          scriptHints: [
            'From left to right is half a turn.',
            'Wait a second before you read: the turret swings.',
          ],
          watch: 'Watch both kept numbers when the choice is made.',
          reflect: 'What would happen without the waits?',
          extend: 'Choose the way back when both sides are nearly the same.',
          homework: 'Write the rule as a sentence for a blindfolded classmate. Does it work?',
        },
      }),
    },
  ],
};
