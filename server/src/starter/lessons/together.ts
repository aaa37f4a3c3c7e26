import { darkTape } from '@vigilum/core/course';
import { darkAndLight, type LessonRobot } from '@vigilum/core/lesson';
import { skiffBuild } from '../skiff.ts';
import { cobbleWith, colourEye, courseOf, fault, floorEye, lesson, sounder, spinTop } from './parts.ts';

const gyro = 'sensor gyro is heading on K5\n';

/** 9. Turn by heading without overshoot; drive straight while pushed. */
export const holdABearing = lesson({
  slug: 'hold-a-bearing',
  title: 'Hold a bearing',
  aim: 'The tug turns a quarter to the right without overshooting and then holds that bearing.',
  need: { kind: 'heading', socket: 'K5', name: 'gyro' },
  robot: cobbleWith([spinTop]),
  course: courseOf('open-water', 'Open water', { widthMm: 2000, heightMm: 1400 }),
  modelScript: `${gyro}zero heading
repeat until gyro >= 88
  wheels 4 + 0.5 * (90 - gyro) and -4 - 0.5 * (90 - gyro)
end
stop
zero wheels
repeat until left wheel >= 4 turns
  steer 2 * (90 - gyro) at 30 %
end
stop
`,
  expectations: [
    { kind: 'net turn', deg: 90, toleranceDeg: 5 },
    { kind: 'formula', says: 'Never turns past 95°', formula: 'always turned < 95' },
    {
      kind: 'formula',
      says: 'Turns before it drives: has not gone 10 cm when it has turned 80°',
      formula: '(travelled < 10 cm) until turned > 80',
    },
    {
      kind: 'formula',
      says: 'Holds the bearing while it drives: within 5° from 15 cm on',
      formula: 'always (travelled > 15 cm -> turned > 85 and turned < 95)',
    },
    { kind: 'travels', atLeastMm: 400 },
    { kind: 'comes to rest' },
  ],
  faults: [
    fault(
      'turns at full power',
      `${gyro}zero heading\nspin right at 100 %\nwait until gyro >= 90\nstop\nzero wheels\nrepeat until left wheel >= 4 turns\n  drive 30 %\nend\nstop\n`,
    ),
    fault(
      'drives straight without looking',
      `${gyro}zero heading\nrepeat until gyro >= 88\n  wheels 4 + 0.5 * (90 - gyro) and -4 - 0.5 * (90 - gyro)\nend\nstop\ndrive 30 % for 4 turns\n`,
    ),
    fault(
      'steers the wrong way',
      `${gyro}zero heading\nrepeat until gyro >= 88\n  wheels 4 + 0.5 * (90 - gyro) and -4 - 0.5 * (90 - gyro)\nend\nstop\nzero wheels\nrepeat until left wheel >= 4 turns\n  steer 2 * (gyro - 90) at 30 %\nend\nstop\n`,
    ),
    fault('waits for exactly 90', `${gyro}zero heading\nspin right at 40 %\nwait until gyro = 90\nstop\n`),
    fault(
      'turns left',
      `${gyro}zero heading\nrepeat until gyro <= -88\n  wheels -4 - 0.5 * (90 + gyro) and 4 + 0.5 * (90 + gyro)\nend\nstop\nzero wheels\nrepeat until left wheel >= 4 turns\n  steer 2 * (-90 - gyro) at 30 %\nend\nstop\n`,
    ),
  ],
  conditions: { mismatch: [-0.05, 0.05], driftPerS: [-0.1, 0.1], headingAtStart: [-40, 40] },
  floor: { measures: ['turn'] },
  timeLimitS: 30,
  seed: 909,
});

const threeSensors = `sensor front is distance on K2
sensor floor is light on K3
sensor seen is colour on K4
`;
const quay = { name: 'quay boards', reflectance: 0.76 };
const fairway = { ...darkTape, name: 'fairway' };

/** 12. Wait for traffic, turn round on green, otherwise follow: three rules in one loop. */
export const harbourRules = lesson({
  slug: 'harbour-rules',
  title: 'Harbour rules',
  aim: 'The tug follows the fairway, waits for the ferry, and turns round on green.',
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  also: [
    { kind: 'distance', socket: 'K2', name: 'front' },
    { kind: 'colour', socket: 'K4', name: 'seen' },
  ],
  robot: cobbleWith([sounder, floorEye, colourEye], { K3: 46 }),
  read: darkAndLight(fairway, quay),
  course: courseOf('fairway', 'Fairway'),
  modelScript: `${threeSensors}repeat for 45 s
  if front < 10 cm
    stop
  else if seen is green
    turn right 160 deg
  else
    steer 1 * (floor - threshold) at 15 %
  end
end
stop
`,
  expectations: [
    { kind: 'waits for', box: 'ferry', withinS: 2 },
    { kind: 'never touches' },
    {
      kind: 'formula',
      says: 'Stands while the ferry is near: less than 9.5 cm away',
      formula: 'always ("ferry there" > 0 and "room to ferry" < 9.5 cm -> eventually[0, 0.6] motion < 20)',
    },
    { kind: 'visits', zones: ['north', 'south'] },
    {
      kind: 'formula',
      says: 'Stays within 12 cm of the fairway’s left edge until it turns round',
      formula: '("off left" < 120) until "in north" > 0',
    },
    {
      kind: 'formula',
      says: 'Turns about half round, to one side or the other',
      formula: 'eventually (turned > 140 or turned < -140)',
    },
    { kind: 'still running', seconds: 40 },
  ],
  faults: [
    fault(
      'asks for green first, then forgets the ferry',
      `${threeSensors}repeat for 45 s\n  if seen is green\n    turn right 160 deg\n  else\n    steer 1 * (floor - threshold) at 15 %\n  end\nend\nstop\n`,
    ),
    fault(
      'waits for ever at the first stop',
      `${threeSensors}repeat until front < 10 cm\n  steer 1 * (floor - threshold) at 15 %\nend\nstop\n`,
    ),
    fault(
      'takes one of three decisions once',
      `${threeSensors}if front < 10 cm\n  stop\nelse if seen is green\n  turn right 160 deg\nelse\n  steer 1 * (floor - threshold) at 15 %\nend\nwait 45 s\nstop\n`,
    ),
    fault(
      'goes straight on over green',
      `${threeSensors}repeat for 45 s\n  if front < 10 cm\n    stop\n  else\n    steer 1 * (floor - threshold) at 15 %\n  end\nend\nstop\n`,
    ),
    fault(
      'looks for the ferry too late',
      `${threeSensors}repeat for 45 s\n  if front < 10 mm\n    stop\n  else if seen is green\n    turn right 160 deg\n  else\n    steer 1 * (floor - threshold) at 15 %\n  end\nend\nstop\n`,
    ),
  ],
  conditions: { acrossMm: [-4, 4], laterS: [0, 1.5] },
  bar: 0.8,
  timeLimitS: 50,
  seed: 1212,
});

const two = `sensor front is distance on K2
sensor floor is light on K3
`;
const roundTask = `
task go round the buoy
  turn right 60 deg
  drive 25 % for 20 cm
  turn left 60 deg
  drive 25 % for 32 cm
  turn left 60 deg
  drive 15 %
  wait until floor < threshold
  stop
  drive 15 % for 6 cm
  turn right 40 deg
end
`;
const follow = '  steer 1 * (floor - threshold) at 15 %\n';

/** 13. Find the obstacle while following, go round it, find the line again. */
export const roundTheBuoy = lesson({
  slug: 'round-the-buoy',
  title: 'Round the buoy',
  aim: 'The tug follows the fairway up to the buoy, goes round it and follows on.',
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  also: [{ kind: 'distance', socket: 'K2', name: 'front' }],
  robot: cobbleWith([sounder, floorEye], { K3: 46 }),
  read: darkAndLight(fairway, quay),
  course: courseOf('buoy', 'Line with a buoy'),
  modelScript: `${two}repeat until front < 12 cm
${follow}end
stop
wait 0.3 s
do go round the buoy
repeat for 5 s
${follow}end
stop
${roundTask}`,
  expectations: [
    { kind: 'never touches' },
    { kind: 'visits', zones: ['beyond'] },
    {
      kind: 'formula',
      says: 'Follows the left edge until it is at the buoy',
      formula: '("off left" < 20) until "room to buoy" < 20 cm',
    },
    {
      kind: 'formula',
      says: 'Leaves the line there and comes back to it',
      formula: 'eventually ("off left" > 60 and eventually "off left" < 30)',
    },
    {
      kind: 'formula',
      says: 'Ends on the fairway, within 3 cm of its left edge, pointing along it',
      formula: 'eventually always ("off left" < 30 and turned < 25 and turned > -25)',
    },
    {
      kind: 'formula',
      says: 'Follows on until it is 30 cm from the buoy',
      formula: 'eventually always "room to buoy" > 30 cm',
    },
    { kind: 'comes to rest' },
  ],
  faults: [
    fault('stands at the buoy', `${two}repeat until front < 12 cm\n${follow}end\nstop\n`),
    fault(
      'does not look for the line again',
      `${two}repeat until front < 12 cm\n${follow}end\nstop\nturn right 60 deg\ndrive 25 % for 20 cm\nturn left 60 deg\ndrive 25 % for 32 cm\nturn left 60 deg\nrepeat for 5 s\n${follow}end\nstop\n`,
    ),
    fault(
      'sees the buoy too late',
      `${two}repeat until front < 4 cm\n${follow}end\nstop\ndo go round the buoy\nrepeat for 5 s\n${follow}end\nstop\n${roundTask}`,
    ),
    fault(
      'does not follow on',
      `${two}repeat until front < 12 cm\n${follow}end\nstop\ndo go round the buoy\nstop\n${roundTask}`,
    ),
  ],
  conditions: { acrossMm: [-4, 4] },
  timeLimitS: 60,
  seed: 1313,
});

/** 14. Search sweep, push, see the border, back off; hands-off wait; two robots. */
export const guardTheIsland = lesson({
  slug: 'guard-the-island',
  title: 'Guard the island',
  aim: 'The tug waits hands-off, searches the other robot, pushes it off the island and stays on it.',
  need: { kind: 'distance', socket: 'K2', name: 'front' },
  also: [{ kind: 'light', socket: 'K3', name: 'floor' }],
  robot: cobbleWith([sounder, floorEye], { K3: 50 }),
  read: darkAndLight({ ...darkTape, name: 'border' }, { name: 'island', reflectance: 0.8 }),
  course: courseOf('island', 'Island', { speedMm: 30 }),
  modelScript: `${two}wait 2 s
repeat
  spin right at 12 %
  wait until front < 70 cm or floor < threshold
  wait 0.2 s
  drive 35 %
  wait until floor < threshold
  stop
  wait 0.5 s
  drive -40 % for 0.8 s
end
`,
  expectations: [
    { kind: 'stands until', seconds: 1.9 },
    { kind: 'pushes out', zone: 'island' },
    { kind: 'formula', says: 'Stays on the island itself', formula: 'always "in island" > 0' },
    { kind: 'still running', seconds: 60 },
    {
      kind: 'formula',
      says: 'Searches: turns on the spot before it drives',
      formula: '(travelled < 8 cm) until (turned > 1.5 or turned < -1.5)',
    },
    { kind: 'formula', says: 'Backs off from the border', formula: 'eventually speed < -50' },
  ],
  faults: [
    fault(
      'does not wait hands-off',
      `${two}repeat\n  spin right at 12 %\n  wait until front < 70 cm or floor < threshold\n  drive 35 %\n  wait until floor < threshold\n  stop\n  drive -40 % for 0.8 s\nend\n`,
    ),
    fault(
      'does not see the border',
      `${two}wait 2 s\nrepeat\n  spin right at 12 %\n  wait until front < 70 cm\n  drive 35 %\n  wait 3 s\n  stop\n  drive -40 % for 0.8 s\nend\n`,
    ),
    fault(
      'backs off ahead',
      `${two}wait 2 s
repeat
  spin right at 12 %
  wait until front < 70 cm or floor < threshold
  wait 0.2 s
  drive 35 %
  wait until floor < threshold
  stop
  drive 40 % for 0.8 s
end
`,
    ),
    fault(
      'forgets to drive at it',
      `${two}wait 2 s
repeat
  spin right at 12 %
  wait until front < 70 cm or floor < threshold
  wait 0.2 s
  wait until floor < threshold
  stop
  drive -40 % for 0.8 s
end
`,
    ),
    fault(
      'never backs off',
      `${two}wait 2 s\nspin right at 12 %\nwait until front < 70 cm\ndrive 35 %\nwait until floor < threshold\nstop\n`,
    ),
  ],
  conditions: { alongMm: [-20, 20], bearingDeg: [-15, 15], echoes: [0, 0.02] },
  caution: 'Hands clear before the bout: nobody touches a robot from “go” to the end. Stand behind the line.',
  timeLimitS: 60,
  seed: 1414,
});

const skiffWithBeacon: LessonRobot = {
  kit: 'skiff',
  build: {
    ...skiffBuild,
    fittings: skiffBuild.fittings.map((f) =>
      f.sensorId === 'lookout' ? { ...f, mode: 'beacon' as const } : f,
    ),
  },
  thresholds: {},
};
const beacon = 'sensor beacon is beacon on S-c\n';

/** 15. Proximity and direction, raw values and lists of values. */
export const findTheBeacon = lesson({
  slug: 'find-the-beacon',
  title: 'Find the beacon',
  aim: 'The tug turns until it sees the beacon, drives up to it and stops in its light.',
  need: { kind: 'beacon', socket: 'S-c', name: 'beacon' },
  robot: skiffWithBeacon,
  course: courseOf('beacon', 'Beacon'),
  modelScript: `${beacon}repeat until beacon.strength > 88 %
  if beacon is nothing
    spin right at 12 %
  else if beacon.direction < -5 deg
    spin left at 12 %
  else if beacon.direction > 5 deg
    spin right at 12 %
  else
    drive 40 %
  end
end
stop
show item 1 of beacon and " " and item 2 of beacon
`,
  expectations: [
    { kind: 'ends in', zone: 'light' },
    {
      kind: 'formula',
      says: 'Ends pointing at the beacon, within 20°',
      formula: 'eventually always ("S-c" < 20 and "S-c" > -20)',
    },
    { kind: 'never touches' },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 40 },
    {
      kind: 'formula',
      says: 'Shows how strong the beacon is, as the sensor says it just then',
      formula: 'eventually always ("shown less S-c strength" < 0.6 and "shown less S-c strength" > -0.6)',
    },
  ],
  faults: [
    fault(
      'turns away from the beacon',
      `${beacon}repeat until beacon.strength > 88 %\n  if beacon is nothing\n    spin right at 20 %\n  else if beacon.direction < -5 deg\n    spin right at 12 %\n  else if beacon.direction > 5 deg\n    spin left at 12 %\n  else\n    drive 40 %\n  end\nend\nstop\nshow item 2 of beacon\n`,
    ),
    fault(
      'drives when it sees nothing',
      `${beacon}repeat until beacon.strength > 88 %\n  if beacon.direction < -5 deg\n    spin left at 12 %\n  else if beacon.direction > 5 deg\n    spin right at 12 %\n  else\n    drive 40 %\n  end\nend\nstop\nshow item 2 of beacon\n`,
    ),
    fault(
      'stops too early',
      `${beacon}repeat until beacon.strength > 30 %\n  if beacon is nothing\n    spin right at 20 %\n  else if beacon.direction < -5 deg\n    spin left at 12 %\n  else if beacon.direction > 5 deg\n    spin right at 12 %\n  else\n    drive 40 %\n  end\nend\nstop\nshow item 2 of beacon\n`,
    ),
    fault(
      'never stops',
      `${beacon}repeat\n  if beacon is nothing\n    spin right at 20 %\n  else if beacon.direction < -5 deg\n    spin left at 12 %\n  else if beacon.direction > 5 deg\n    spin right at 12 %\n  else\n    drive 40 %\n  end\nend\n`,
    ),
  ],
  caution: 'Do not look into the beacon or the sensor up close.',
  timeLimitS: 60,
  seed: 1515,
});
