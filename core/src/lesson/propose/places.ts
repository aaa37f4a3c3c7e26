import { boards, buildCourse, darkTape, familyOf } from '../../course/index.ts';
import { tableAndNothing } from '../usualReadings.ts';
import type { Ink, LessonAim } from './propose.ts';
import type { Wanted } from './robotFor.ts';

const front: Wanted = { name: 'front', kind: 'distance', facing: 'ahead' };
const nose: Wanted = { name: 'nose', kind: 'touch', facing: 'ahead' };
const floorEye: Wanted = { name: 'floor', kind: 'light', facing: 'down' };

export const stopBefore: LessonAim = {
  id: 'stop-before-something',
  name: 'stop before something',
  says: 'Drive up to a wall and stop short of it; with a bumper, stop at the touch and back off.',
  recipes: [
    {
      takes: [front],
      write: ({ sockets, declared, pace }) => ({
        title: 'Stop short',
        aim: 'The robot drives up to the wall and stops 15 cm short of it.',
        skills: ['stops by a measured distance', 'allows for the way that stopping takes'],
        thresholds: { [sockets[0]!]: 17 },
        course: buildCourse(familyOf('quay')),
        modelScript: `${declared}drive ${pace(180)} %\nwait until front < threshold\nstop\n`,
        expectations: [
          { kind: 'ends with gap', gapMm: 150, toleranceMm: 25 },
          { kind: 'never touches' },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 12 },
        ],
        floor: { measures: ['gap'] },
        timeLimitS: 15,
        faults: ({ declared: head, pace: at }) => [
          { name: 'forgets to stop', script: `${head}drive ${at(180)} %\nwait until front < threshold\n` },
          {
            name: 'asks for farther',
            script: `${head}drive ${at(180)} %\nwait until front > threshold\nstop\n`,
          },
          {
            name: 'keeps the first guess of 30',
            script: `${head}drive ${at(180)} %\nwait until front < 30 cm\nstop\n`,
          },
        ],
        words: {
          brief:
            'It hears how far the wall is. Stopping takes time, and it rolls on for a while: that must be in your number.',
          predict: 'It shall stop at 15 cm. Which number must the script wait for, and why is it larger?',
          script: 'Drive, wait until it is near enough, **stop**.',
          scriptHints: [
            'Begin with 30, measure, then walk it down: 20, 17 …',
            'Nothing in front gives no number at all, not a large one.',
          ],
          watch: 'Watch the distance: what does it say when the script stops, and what at rest?',
          reflect: 'How many centimetres does your robot need to stop? Does that depend on the speed?',
          extend: 'Stop at 15 cm at half the speed and at twice the speed, each with its own number.',
          homework:
            'A robot drives 20 cm a second and needs 0.15 s until it brakes. How far does it get in that time?',
        },
      }),
    },
    {
      takes: [nose],
      write: ({ declared, pace }) => ({
        title: 'Stop at the touch',
        aim: 'The robot drives until its bumper meets the wall, stops, and backs off by 10 cm.',
        skills: ['stops by touch', 'backs off by a measured way'],
        course: buildCourse(familyOf('quay'), { distanceMm: 600 }),
        modelScript: `${declared}drive ${pace(130)} %\nwait until nose is pressed\nstop\nwait 0.5 s\ndrive -${pace(130)} % for 10 cm\nstop\n`,
        expectations: [
          { kind: 'bumps', atLeast: 1 },
          { kind: 'backs off by', byMm: 100, toleranceMm: 30 },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 12 },
        ],
        floor: { measures: ['gap'] },
        timeLimitS: 15,
        faults: ({ declared: head, pace: at }) => [
          {
            name: 'does not back off',
            script: `${head}drive ${at(130)} %\nwait until nose is pressed\nstop\n`,
          },
          {
            name: 'waits for released',
            script: `${head}drive ${at(130)} %\nwait until nose is released\nstop\ndrive -${at(130)} % for 10 cm\n`,
          },
          {
            name: 'goes on ahead',
            script: `${head}drive ${at(130)} %\nwait until nose is pressed\nstop\ndrive ${at(130)} % for 10 cm\n`,
          },
        ],
        words: {
          brief:
            'A bumper knows only two things: pressed or released. It tells of the wall when the robot is already there.',
          predict: 'Where will it stand in the end, measured from the wall?',
          script: 'Drive, wait for the touch, stop, pause, back off.',
          scriptHints: [
            'Pause half a second before you reverse.',
            '`drive -20 % for 10 cm` finishes by itself.',
          ],
          watch: 'Watch how long it pushes before it stands still.',
          reflect: 'When is a bumper enough, and when would you want to measure the distance?',
          extend: 'Back off, turn a quarter, go on: find three walls.',
          homework: 'Name two machines that stop at the touch of something. How soft must the touch be?',
        },
      }),
    },
  ],
};

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

const slowing = (ink: Ink, leave = 88): string =>
  `${ink.declared}zero heading
repeat until gyro >= ${leave}
  wheels 0.5 * (90 - gyro) and -0.5 * (90 - gyro)
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
            'Leave at 88: the last degrees take for ever.',
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

const bout = (ink: Ink, wait = 'wait 2 s\n', border = 'wait until floor < threshold'): string =>
  `${ink.declared}${wait}repeat
  spin right at 12 %
  wait until front < 70 cm or floor < threshold
  wait 0.2 s
  drive ${ink.pace(185)} %
  ${border}
  stop
  wait 0.5 s
  drive -${ink.pace(210)} % for 0.8 s
end
`;

export const searchAndPush: LessonAim = {
  id: 'search-and-push',
  name: 'search and push',
  says: 'Find the other robot, push it out, stay inside.',
  recipes: [
    {
      takes: [front, floorEye],
      write: (ink) => ({
        title: 'Search and push',
        aim: 'The robot waits hands-off, finds the other one, pushes it off the island and stays on it.',
        skills: ['searches by a slow sweep', 'watches two sensors in one loop'],
        read: {
          burst: 20,
          tasks: [
            {
              surface: 'border',
              role: 'dark',
              reflectance: darkTape.reflectance,
              how: 'Put the sensor over the middle of the border.',
            },
            {
              surface: 'island',
              role: 'light',
              reflectance: 0.8,
              how: 'Put the sensor over the plain island.',
            },
          ],
        },
        thresholds: { [ink.sockets[1]!]: 50 },
        course: buildCourse(familyOf('island'), { speedMm: 30 }),
        modelScript: bout(ink),
        expectations: [
          { kind: 'stands until', seconds: 1.9 },
          { kind: 'pushes out', zone: 'island' },
          { kind: 'formula', says: 'Stays on the island itself', formula: 'always "in island" > 0' },
          { kind: 'still running', seconds: 60 },
        ],
        timeLimitS: 60,
        faults: (same) => [
          { name: 'does not wait hands-off', script: bout(same, '') },
          { name: 'does not see the border', script: bout(same, 'wait 2 s\n', 'wait 3 s') },
          { name: 'searches once', script: bout(same).replace('repeat\n', 'repeat 1 times\n') },
        ],
        words: {
          brief: 'Search slowly, push steadily, and know where the border is. Hands off before it starts.',
          predict: 'How many pushes will it take? How far from the border does it stop?',
          script:
            'Wait two seconds. Then again and again: sweep until something is near, push until the border, stop, back off.',
          scriptHints: [
            'Too fast a sweep passes over the other robot between two looks.',
            'The border counts while sweeping as well.',
          ],
          watch: 'Watch what it sees at the moment it begins to push.',
          reflect: 'Which was worth more: a faster push, or a slower search?',
          extend: 'Sweep to the side where it saw the other robot last.',
          homework: 'Draw the sweep as seen from above: how wide is the other robot at 70 cm, in degrees?',
        },
      }),
    },
  ],
};

const rules = (
  ink: Ink,
  before = '  if front < 10 cm\n    stop\n  else if seen is green',
  rest = '    stop\n    turn right 170 deg\n',
): string =>
  `${ink.declared}repeat for 45 s
${before}
${rest}  else
    steer 1 * (floor - threshold) at ${ink.pace(80)} %
  end
end
stop
`;

export const combine: LessonAim = {
  id: 'combine',
  name: 'combine',
  says: 'Three rules in one loop: wait, turn round, otherwise follow.',
  recipes: [
    {
      takes: [floorEye, front, { name: 'seen', kind: 'colour', facing: 'down', rightMm: 30 }],
      write: (ink) => ({
        title: 'Three rules',
        aim: 'The robot follows the line, waits while something is in its way, and turns round on green.',
        skills: ['puts rules in the order of their importance', 'keeps looking at several sensors'],
        read: {
          burst: 20,
          tasks: [
            {
              surface: 'fairway',
              role: 'dark',
              reflectance: darkTape.reflectance,
              how: 'Put the sensor over the middle of the fairway.',
            },
            {
              surface: boards.name,
              role: 'light',
              reflectance: boards.reflectance,
              how: `Put the sensor over the plain ${boards.name}.`,
            },
          ],
        },
        thresholds: { [ink.sockets[0]!]: 46 },
        course: buildCourse(familyOf('fairway')),
        modelScript: rules(ink),
        expectations: [
          { kind: 'waits for', box: 'ferry', withinS: 2 },
          { kind: 'never touches' },
          { kind: 'visits', zones: ['north', 'south'] },
          { kind: 'comes to rest' },
        ],
        conditions: { acrossMm: [-4, 4], laterS: [0, 1.5] },
        runs: 100,
        timeLimitS: 50,
        faults: (same) => [
          { name: 'forgets what is in the way', script: rules(same, '  if seen is green') },
          { name: 'goes straight on over green', script: rules(same, '  if front < 10 cm', '    stop\n') },
          {
            name: 'looks too late',
            script: rules(same, '  if front < 10 mm\n    stop\n  else if seen is green'),
          },
        ],
        words: {
          brief: 'Three rules, looked at again and again. When two of them apply, the **first** one wins.',
          predict: 'Which rule must come first, and what goes wrong if it does not?',
          script: 'One loop, one decision with three branches: something near, green, otherwise.',
          scriptHints: ['Test each rule alone before you join them.', '`if … else if … else … end`'],
          watch: 'Watch which branch runs, and when it changes.',
          reflect: 'What would happen if “follow” were a wait inside the loop?',
          extend: 'Add a fourth rule: beep while waiting.',
          homework:
            'Write three rules for crossing a road, in the right order. Give them to somebody who follows them to the letter.',
        },
      }),
    },
  ],
};
