import { buildCourse, familyOf } from '../../course/index.ts';
import type { LessonAim } from './propose.ts';
import { front, nose } from './usualSensors.ts';

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
