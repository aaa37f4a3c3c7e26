import { darkTape } from '@vigilum/core/course';
import { darkAndLight, tableAndNothing } from '@vigilum/core/lesson';
import { tideLine as slice } from '../tideLine.ts';
import {
  cobbleWith,
  colourEye,
  courseOf,
  fault,
  floorEye,
  leftEye,
  lesson,
  rightEye,
  rgbEye,
  sounder,
} from './parts.ts';

const floor = 'sensor floor is light on K3';
const front = 'sensor front is distance on K2';
const seen = 'sensor seen is colour on K4';
const quay = { name: 'quay boards', reflectance: 0.76 };
const tape = (name: string) => ({ ...darkTape, name });

/** 5. Stop on the dark line. */
export const tideLine = {
  ...slice,
  robot: cobbleWith([floorEye], { K3: 48 }),
  faults: [
    fault('forgets to stop', `${floor}\ndrive 30 %\nwait until floor < threshold\n`),
    fault('asks for lighter', `${floor}\ndrive 30 %\nwait until floor > threshold\nstop\n`),
    fault('is right, but too fast', `${floor}\ndrive 100 %\nwait until floor < threshold\nstop\n`),
    fault('decides once instead of waiting', `${floor}\ndrive 30 %\nif floor < threshold\n  stop\nend\n`),
    fault('types a threshold that no surface gives', `${floor}\ndrive 30 %\nwait until floor < 10\nstop\n`),
  ],
};

const counting = `${floor}
${front}
let lanes = 0
let across = 0
drive 25 %
repeat until front < 15 cm
`;
const showing = `end
stop
show "Lanes: " and lanes
`;

/** 6. Lines with coloured rivals; re-arm; show the total at the end wall. */
export const countTheLanes = lesson({
  slug: 'count-the-lanes',
  title: 'Count the lanes',
  aim: 'The tug crosses the lanes, counts the dark ones only, and shows how many at the end wall.',
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  also: [{ kind: 'distance', socket: 'K2', name: 'front' }],
  robot: cobbleWith([floorEye, sounder], { K3: 40 }),
  read: darkAndLight(tape('lane line'), quay),
  course: courseOf('lanes', 'Lanes'),
  modelScript: `${counting}  if floor < threshold and across = 0
    set lanes to lanes + 1
    set across to 1
  else if floor > threshold + 10 and across = 1
    set across to 0
  end
${showing}`,
  expectations: [
    { kind: 'counts', count: 5, tolerance: 0 },
    { kind: 'never touches' },
    {
      kind: 'formula',
      says: 'Ends less than 25 cm before the end wall',
      formula: 'eventually always "gap ahead" < 25 cm',
    },
    { kind: 'comes to rest' },
  ],
  faults: [
    fault(
      'counts without waiting for the line to end',
      `${counting}  if floor < threshold\n    set lanes to lanes + 1\n  end\n${showing}`,
    ),
    fault(
      'counts the coloured lines too',
      `${counting}  if floor < 70 and across = 0\n    set lanes to lanes + 1\n    set across to 1\n  else if floor > 72 and across = 1\n    set across to 0\n  end\n${showing}`,
    ),
    fault(
      'never re-arms',
      `${counting}  if floor < threshold and across = 0\n    set lanes to lanes + 1\n    set across to 1\n  end\n${showing}`,
    ),
    fault(
      'is too fast to see every line',
      `${floor}\n${front}\nlet lanes = 0\nlet across = 0\ndrive 100 %\nrepeat until front < 30 cm\n  if floor < threshold and across = 0\n    set lanes to lanes + 1\n    set across to 1\n  else if floor > threshold + 10 and across = 1\n    set across to 0\n  end\n${showing}`,
    ),
    fault(
      'waits for a line inside the loop',
      `${floor}\n${front}\nlet lanes = 0\ndrive 25 %\nrepeat until front < 15 cm\n  wait until floor < threshold\n  set lanes to lanes + 1\n  wait until floor > threshold + 10\n${showing}`,
    ),
  ],
  floor: { measures: ['count', 'gap'] },
  timeLimitS: 40,
  seed: 606,
});

const following = `${floor}\n${seen}\n`;

/** 7. Two-state, then proportional; stop by colour. */
export const followTheChannel = lesson({
  slug: 'follow-the-channel',
  title: 'Follow the channel',
  aim: 'The tug follows the left edge of the channel through a gentle and a sharp bend to the red berth.',
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  also: [{ kind: 'colour', socket: 'K4', name: 'seen' }],
  robot: cobbleWith([floorEye, colourEye], { K3: 46 }),
  read: darkAndLight(tape('channel'), quay),
  course: courseOf('channel', 'Channel'),
  modelScript: `${following}repeat until seen is red
  steer 1.2 * (floor - threshold) at 15 %
end
stop
`,
  expectations: [
    { kind: 'stays on track', track: 'left', withinMm: 16, share: 0.9 },
    { kind: 'ends in', zone: 'berth' },
    { kind: 'comes to rest' },
  ],
  faults: [
    fault(
      'steers away from the edge',
      `${following}repeat until seen is red\n  steer 1.2 * (threshold - floor) at 15 %\nend\nstop\n`,
    ),
    fault(
      'has too little gain for the bend',
      `${following}repeat until seen is red\n  steer 0.2 * (floor - threshold) at 15 %\nend\nstop\n`,
    ),
    fault(
      'is too fast for the sharp bend',
      `${following}repeat until seen is red\n  steer 0.4 * (floor - threshold) at 45 %\nend\nstop\n`,
    ),
    fault(
      'steers once',
      `${following}steer 1.2 * (floor - threshold) at 15 %\nwait until seen is red\nstop\n`,
    ),
    fault('never stops', `${following}repeat\n  steer 1.2 * (floor - threshold) at 15 %\nend\n`),
  ],
  conditions: { acrossMm: [-4, 4] },
  timeLimitS: 60,
  seed: 707,
});

const eyes = `sensor left floor is light on K3
sensor right floor is light on K4
${front}
`;

/** 8. Stay on the table by light; patrol between edge and wall. */
export const piersEdge = lesson({
  slug: 'piers-edge',
  title: 'Pier’s edge',
  aim: 'The tug goes up and down the pier between its wall and its edge and never goes over.',
  need: { kind: 'light', socket: 'K3', name: 'left floor' },
  also: [
    { kind: 'light', socket: 'K4', name: 'right floor' },
    { kind: 'distance', socket: 'K2', name: 'front' },
  ],
  robot: cobbleWith([leftEye, rightEye, sounder], { K3: 30, K4: 30 }),
  read: tableAndNothing({ name: 'pier planks', reflectance: 0.6 }),
  course: courseOf('pier', 'Pier'),
  modelScript: `${eyes}repeat
  drive 25 %
  wait until left floor < threshold or right floor < threshold or front < 15 cm
  stop
  wait 0.5 s
  drive -25 % for 12 cm
  turn right 180 deg
end
`,
  expectations: [
    { kind: 'never over the edge' },
    { kind: 'never touches' },
    { kind: 'still running', seconds: 40 },
    { kind: 'travels', atLeastMm: 1500 },
    { kind: 'visits', zones: ['head', 'root'] },
    {
      kind: 'formula',
      says: 'Backs off before it turns',
      formula: '(turned < 60 and turned > -60) until speed < -30',
    },
    {
      kind: 'formula',
      says: 'Turns round, to one side or the other',
      formula: 'eventually (turned > 140 or turned < -140)',
    },
    {
      kind: 'formula',
      says: 'Turns round in one go: drives on only when it has turned more than 130°',
      formula:
        'always[0, 40] ((turned > 50 and turned < 130 -> eventually[0, 2.5] (turned > 130 or turned < 50)) and (turned < -50 and turned > -130 -> eventually[0, 2.5] (turned < -130 or turned > -50)))',
    },
  ],
  faults: [
    fault(
      'turns without backing off',
      `${eyes}repeat\n  drive 25 %\n  wait until left floor < threshold or right floor < threshold or front < 15 cm\n  stop\n  turn right 180 deg\nend\n`,
    ),
    fault(
      'watches the wall only',
      `${eyes}repeat\n  drive 25 %\n  wait until front < 15 cm\n  stop\n  drive -25 % for 12 cm\n  turn right 180 deg\nend\n`,
    ),
    fault(
      'wants both conditions at once',
      `${eyes}repeat\n  drive 25 %\n  wait until left floor < threshold and right floor < threshold and front < 15 cm\n  stop\n  drive -25 % for 12 cm\n  turn right 180 deg\nend\n`,
    ),
    fault(
      'looks once',
      `${eyes}drive 25 %\nwait until left floor < threshold or right floor < threshold or front < 15 cm\nstop\ndrive -25 % for 12 cm\nturn right 180 deg\ndrive 25 %\nwait 10 s\n`,
    ),
    fault(
      'drives on where it should back off',
      `${eyes}repeat
  drive 25 %
  wait until left floor < threshold or right floor < threshold or front < 15 cm
  stop
  drive 25 % for 12 cm
  turn right 180 deg
end
`,
    ),
  ],
  caution: 'A catcher stands at each edge of the table, program finished or not.',
  timeLimitS: 45,
  seed: 808,
});

/** 16. Colour names, rgb values, which rivals get mixed up. */
const cargoStep = `  drive 25 % for 15 cm
  wait 0.5 s
`;
export const coloursOfTheCargo = lesson({
  slug: 'colours-of-the-cargo',
  title: 'Colours of the cargo',
  aim: 'The tug stops over each card and shows which colour it is by its red, green and blue.',
  need: { kind: 'rgb', socket: 'K4', name: 'hold' },
  robot: cobbleWith([rgbEye]),
  course: courseOf('cargo', 'Cargo', { apartMm: 150 }),
  modelScript: `sensor hold is rgb on K4
let r = 0
let g = 0
let b = 0
repeat 3 times
${cargoStep}  set r to hold.red
  set g to hold.green
  set b to hold.blue
  if r > g and r > b
    show "red " and r
  else if g > b
    show "green " and g
  else
    show "blue " and b
  end
  beep
end
`,
  expectations: [
    { kind: 'shows in order', texts: ['{first}', '{second}', '{third}'] },
    { kind: 'shows', text: '{third}' },
    { kind: 'comes to rest' },
    { kind: 'travels', atLeastMm: 400 },
  ],
  faults: [
    fault(
      'takes the least instead of the most',
      `sensor hold is rgb on K4\nlet most = 0\nrepeat 3 times\n${cargoStep}  set most to min(hold.red, hold.green, hold.blue)\n  if hold.red <= most\n    show "red " and hold.red\n  else if hold.green <= most\n    show "green " and hold.green\n  else\n    show "blue " and hold.blue\n  end\nend\n`,
    ),
    fault(
      'looks at red only',
      `sensor hold is rgb on K4\nrepeat 3 times\n${cargoStep}  if hold.red > 60\n    show "red " and hold.red\n  else\n    show "green " and hold.green\n  end\nend\n`,
    ),
    fault(
      'stops between the cards',
      `sensor hold is rgb on K4\nlet most = 0\nrepeat 3 times\n  drive 25 % for 8 cm\n  wait 0.5 s\n  set most to max(hold.red, hold.green, hold.blue)\n  if hold.red >= most\n    show "red " and hold.red\n  else if hold.green >= most\n    show "green " and hold.green\n  else\n    show "blue " and hold.blue\n  end\nend\n`,
    ),
  ],
  conditions: { alongMm: [-10, 10] },
  timeLimitS: 30,
  seed: 1616,
});
