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
  wheels 0.5 * (90 - gyro) and -0.5 * (90 - gyro)
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
    { kind: 'holds bearing', deg: 90, withinDeg: 5, fromS: 3.5, share: 0.98 },
    { kind: 'formula', says: 'Never turns past 95°', formula: 'always turned < 95' },
    {
      kind: 'formula',
      says: 'Drives on without wagging: from 4 s on it never turns faster than 15° a second',
      formula: 'always[4, end] (turning < 15 and turning > -15)',
    },
    { kind: 'no faster', mmPerS: 270 },
    { kind: 'does not roll on', withinMm: 25 },
    { kind: 'travels', atLeastMm: 800 },
    { kind: 'formula', says: 'Drives no farther than 1 m', formula: 'always travelled < 100 cm' },
    {
      kind: 'formula',
      says: 'Turns before it drives: has not gone 10 cm when it has turned 80°',
      formula: '(travelled < 10 cm) until turned > 80',
    },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 12 },
  ],
  faults: [
    fault(
      'turns at full power',
      `${gyro}zero heading\nspin right at 100 %\nwait until gyro >= 90\nstop\nzero wheels\nrepeat until left wheel >= 4 turns\n  drive 30 %\nend\nstop\n`,
    ),
    fault(
      'drives straight without looking',
      `${gyro}zero heading\nrepeat until gyro >= 88\n  wheels 0.5 * (90 - gyro) and -0.5 * (90 - gyro)\nend\nstop\ndrive 30 % for 4 turns\n`,
    ),
    fault(
      'steers the wrong way',
      `${gyro}zero heading\nrepeat until gyro >= 88\n  wheels 0.5 * (90 - gyro) and -0.5 * (90 - gyro)\nend\nstop\nzero wheels\nrepeat until left wheel >= 4 turns\n  steer 2 * (gyro - 90) at 30 %\nend\nstop\n`,
    ),
    fault('waits for exactly 90', `${gyro}zero heading\nspin right at 40 %\nwait until gyro = 90\nstop\n`),
    fault(
      'turns left',
      `${gyro}zero heading\nrepeat until gyro <= -88\n  wheels -0.5 * (90 + gyro) and 0.5 * (90 + gyro)\nend\nstop\nzero wheels\nrepeat until left wheel >= 4 turns\n  steer 2 * (-90 - gyro) at 30 %\nend\nstop\n`,
    ),
  ],
  conditions: { mismatch: [-0.05, 0.05], driftPerS: [-0.1, 0.1], headingAtStart: [-40, 40] },
  floor: { measures: ['turn'] },
  timeLimitS: 15,
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
    { kind: 'visits', zones: ['north', 'south'] },
    { kind: 'does not roll on', withinMm: 20 },
    { kind: 'formula', says: 'Drives no faster than 12 cm a second', formula: 'always speed < 120' },
    {
      kind: 'formula',
      says: 'Stays within 9 cm of the fairway’s left edge until it turns round',
      formula: '("off left" < 90) until "in north" > 0',
    },
    {
      kind: 'formula',
      says: 'Turns to the right, about half round',
      formula: 'eventually turned > 150 and always turned > -40',
    },
    { kind: 'comes to rest' },
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
  timeLimitS: 50,
  seed: 1212,
});

const two = `sensor front is distance on K2
sensor floor is light on K3
`;
const roundTask = (side: 'right' | 'left', other: 'right' | 'left', last = '  stop\n') => `
task go round the buoy
  turn ${side} 60 deg
  drive 25 % for 20 cm
  turn ${other} 60 deg
  drive 25 % for 32 cm
  turn ${other} 60 deg
  drive 15 %
  wait until floor < threshold
${last}  drive 15 % for 6 cm
  turn ${side} 40 deg
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
${roundTask('right', 'left')}`,
  expectations: [
    { kind: 'never touches' },
    { kind: 'visits', zones: ['beyond'] },
    { kind: 'does not roll on', withinMm: 20 },
    { kind: 'formula', says: 'Drives no faster than 14.5 cm a second', formula: 'always speed < 145' },
    {
      kind: 'formula',
      says: 'Stands before it turns round the buoy',
      formula: '(speed < 40 or turning < 35 and turning > -35) until travelled > 45 cm',
    },
    {
      kind: 'formula',
      says: 'Its whole way is between 1.35 m and 1.6 m long',
      formula: 'eventually travelled > 135 cm and always travelled < 160 cm',
    },
    {
      kind: 'formula',
      says: 'Ends within 2 cm of the fairway’s left edge, pointing along it',
      formula: 'eventually always ("off left" < 20 and turned < 20 and turned > -20)',
    },
    {
      kind: 'formula',
      says: 'Follows the left edge until it is at the buoy',
      formula: '("off left" < 12) until "room to buoy" < 18 cm',
    },
    {
      kind: 'formula',
      says: 'Goes round on the right',
      formula: '(turned > -25) until turned > 45',
    },
    {
      kind: 'formula',
      says: 'Follows on for at least 30 cm',
      formula: 'eventually (turned > 45 and eventually always "room to buoy" > 30 cm)',
    },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 35 },
  ],
  faults: [
    fault(
      'goes round on the wrong side',
      `${two}repeat until front < 12 cm\n${follow}end\nstop\ndo go round the buoy\nrepeat for 5 s\n${follow}end\nstop\n${roundTask('left', 'right')}`,
    ),
    fault(
      'does not look for the line again',
      `${two}repeat until front < 12 cm\n${follow}end\nstop\nturn right 60 deg\ndrive 25 % for 20 cm\nturn left 60 deg\ndrive 25 % for 32 cm\nturn left 60 deg\nrepeat for 5 s\n${follow}end\nstop\n`,
    ),
    fault(
      'sees the buoy too late',
      `${two}repeat until front < 4 cm\n${follow}end\nstop\ndo go round the buoy\nrepeat for 5 s\n${follow}end\nstop\n${roundTask('right', 'left')}`,
    ),
    fault(
      'does not follow on',
      `${two}repeat until front < 12 cm\n${follow}end\nstop\ndo go round the buoy\nstop\n${roundTask('right', 'left')}`,
    ),
  ],
  conditions: { acrossMm: [-4, 4] },
  timeLimitS: 40,
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
    { kind: 'no faster', mmPerS: 260 },
    {
      kind: 'formula',
      says: 'Sweeps no faster than 90° a second',
      formula: 'always (turning < 90 and turning > -90)',
    },
    {
      kind: 'formula',
      says: 'Backs off by less than 25 cm: never reverses for more than 1.4 s',
      formula: 'not eventually[0, 58] always[0, 1.4] speed < -100',
    },
    {
      kind: 'formula',
      says: 'Pauses before it reverses: never fast ahead and fast back within 0.3 s',
      formula: 'always[0, 58] (speed > 100 -> always[0, 0.3] speed > -100)',
    },
    { kind: 'formula', says: 'Backs off from the border', formula: 'eventually speed < -100' },
    { kind: 'formula', says: 'Begins with a sweep to the right', formula: 'eventually[2, 6] turned > 15' },
    {
      kind: 'formula',
      says: 'Moves off within 3 s',
      formula: 'eventually[0, 3] speed > 20 or eventually[0, 3] turned > 10',
    },
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
    { kind: 'no faster', mmPerS: 150 },
    {
      kind: 'formula',
      says: 'Turns no faster than 60° a second',
      formula: 'always (turning < 60 and turning > -60)',
    },
    {
      kind: 'formula',
      says: 'Ends pointing at the beacon, within 15°',
      formula: 'eventually always ("S-c" < 16 and "S-c" > -16)',
    },
    { kind: 'never touches' },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 30 },
    {
      kind: 'formula',
      says: 'Shows how strong the beacon is at the end: more than 80',
      formula: 'eventually always "number shown" > 80',
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
  timeLimitS: 40,
  seed: 1515,
});
