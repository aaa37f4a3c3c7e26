import { bumper, button, cobbleWith, courseOf, fault, lesson } from './parts.ts';

const start = 'sensor nose is touch on K1';

/** 1. Touch starts the tug; switch, loop, pressed, released, bumped. */
export const firstWatch = lesson({
  slug: 'first-watch',
  title: 'First watch',
  aim: 'A button starts the tug, stops it while it is held, and lets it go on.',
  need: { kind: 'touch', socket: 'K1', name: 'nose' },
  robot: cobbleWith([button]),
  course: {
    ...courseOf('open-water', 'First watch', { widthMm: 900, heightMm: 2000 }),
    starts: [
      { name: 'A', xMm: 450, yMm: 200, bearingDeg: 0 },
      { name: 'B', xMm: 400, yMm: 250, bearingDeg: 3 },
    ],
    presses: [
      { fromS: 2, toS: 2.4 },
      { fromS: 5, toS: 6 },
      { fromS: 8, toS: 9 },
      { fromS: 11, toS: 12 },
    ],
  },
  modelScript: `${start}
show "press to start"
wait until nose is bumped
clear
repeat 3 times
  drive 30 %
  wait until nose is pressed
  stop
  wait until nose is released
end
stop
`,
  expectations: [
    { kind: 'stands until', seconds: 2.1 },
    { kind: 'soon after', seconds: 0.3, when: { is: 'pressed', socket: 'K1' }, then: { is: 'stands' } },
    {
      kind: 'formula',
      says: 'Drives between the presses: at 3.5 s, at 7 s and at 10 s',
      formula:
        'eventually[3.4, 3.6] speed > 50 and eventually[6.9, 7.1] speed > 50 and eventually[9.9, 10.1] speed > 50',
    },
    {
      kind: 'formula',
      says: 'Says on its display that it waits for a press, and clears it when it starts',
      formula: 'eventually[0, 1] "shows press" > 0 and always[3, end] "shows press" < 0',
    },
    { kind: 'comes to rest' },
    { kind: 'travels', atLeastMm: 900 },
  ],
  faults: [
    fault(
      'starts at once',
      `${start}\nrepeat 3 times\n  drive 30 %\n  wait until nose is pressed\n  stop\n  wait until nose is released\nend\nstop\n`,
    ),
    fault(
      'forgets to stop',
      `${start}\nshow "press to start"\nwait until nose is bumped\nclear\nrepeat 3 times\n  drive 30 %\n  wait until nose is pressed\n  wait until nose is released\nend\nstop\n`,
    ),
    fault(
      'asks for released where pressed is meant',
      `${start}\nshow "press to start"\nwait until nose is bumped\nclear\nrepeat 3 times\n  drive 30 %\n  wait until nose is released\n  stop\n  wait until nose is released\nend\nstop\n`,
    ),
    fault(
      'decides once instead of in a loop',
      `${start}\nshow "press to start"\nwait until nose is bumped\nclear\ndrive 30 %\nwait until nose is pressed\nstop\n`,
    ),
  ],
  conditions: { laterS: [-0.02, 0.08] },
  timeLimitS: 15,
  seed: 101,
});

/** 2. Bumper, stop, back off, turn, repeat. */
export const bumpAndTurn = lesson({
  slug: 'bump-and-turn',
  title: 'Bump and turn in the boathouse',
  aim: 'The tug finds walls with its bumper, backs off, turns and goes on for as long as it is let.',
  need: { kind: 'touch', socket: 'K1', name: 'nose' },
  robot: cobbleWith([bumper]),
  course: courseOf('boathouse', 'Boathouse'),
  modelScript: `${start}
repeat
  drive 35 %
  wait until nose is pressed
  stop
  wait 0.5 s
  do back off and turn
end

task back off and turn
  drive -30 % for 1 turns
  turn right 90 deg
end
`,
  expectations: [
    { kind: 'bumps', atLeast: 3 },
    { kind: 'soon after', seconds: 1, when: { is: 'pressed', socket: 'K1' }, then: { is: 'reverses' } },
    {
      kind: 'formula',
      says: 'Stops within 0.3 s after each press',
      formula: 'always[0, 29] (K1 > 0.5 -> eventually[0, 0.3] speed < 5)',
    },
    { kind: 'backs off after bumps', atLeastMm: 150 },
    { kind: 'still running', seconds: 30 },
    { kind: 'travels', atLeastMm: 3500 },
    {
      kind: 'formula',
      says: 'Turns to the right, at least half round in all',
      formula: 'eventually turned > 240 and always turned > -30',
    },
    {
      kind: 'formula',
      says: 'Pauses before it reverses',
      formula: 'always[0, 27] (K1 > 0.5 and speed > 5 -> eventually[0, 1] always[0, 0.3] motion < 8)',
    },
    {
      kind: 'formula',
      says: 'Reverses no farther than 32 cm',
      formula: 'always "backs off" < 32 cm',
    },
    { kind: 'no faster', mmPerS: 220 },
    {
      kind: 'formula',
      says: 'Never pushes on against a wall for more than a second',
      formula: 'always[0, 28] eventually[0, 1.2] (touching < 0.5 or speed < 5)',
    },
  ],
  faults: [
    fault(
      'turns without backing off',
      `${start}\nrepeat\n  drive 35 %\n  wait until nose is pressed\n  stop\n  wait 0.5 s\n  turn right 90 deg\nend\n`,
    ),
    fault(
      'does it once',
      `${start}\ndrive 35 %\nwait until nose is pressed\nstop\nwait 0.5 s\ndrive -30 % for 1 turns\nturn right 90 deg\n`,
    ),
    fault(
      'looks without waiting',
      `${start}\ndrive 35 %\nif nose is pressed\n  stop\n  drive -30 % for 1 turns\n  turn right 90 deg\nend\nwait 30 s\n`,
    ),
    fault(
      'waits for the release',
      `${start}\nrepeat\n  drive 35 %\n  wait until nose is released\n  stop\n  wait 0.5 s\n  drive -30 % for 1 turns\n  turn right 90 deg\nend\n`,
    ),
    fault(
      'drives the wrong way after the bump',
      `${start}\nrepeat\n  drive 35 %\n  wait until nose is pressed\n  stop\n  wait 0.5 s\n  drive 30 % for 1 turns\n  turn right 90 deg\nend\n`,
    ),
  ],
  timeLimitS: 30,
  seed: 202,
});
