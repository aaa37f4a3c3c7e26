import { boards, buildCourse, darkTape, familyOf } from '../../course/index.ts';
import type { Ink, LessonAim } from './propose.ts';
import { front, floorEye } from './usualSensors.ts';

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
