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
    { kind: 'soon after', seconds: 0.5, when: { is: 'pressed', socket: 'K1' }, then: { is: 'stands' } },
    {
      kind: 'formula',
      says: 'Drives on within a second after each of the first three presses is over',
      formula: 'always[0, 9.9] (K1 > 0.5 and eventually[0, 0.02] K1 < 0.5 -> eventually[0, 1] speed > 20)',
    },
    {
      kind: 'formula',
      says: 'Says on its display that it waits, and clears the display when it starts',
      formula: 'eventually[0, 1] display > 0 and always[4, end] display < 0',
    },
    { kind: 'comes to rest' },
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
    {
      kind: 'formula',
      says: 'Stops within half a second after each press',
      formula: 'always[0, 59] (K1 > 0.5 -> eventually[0, 0.5] speed < 5)',
    },
    { kind: 'soon after', seconds: 2.5, when: { is: 'pressed', socket: 'K1' }, then: { is: 'reverses' } },
    {
      kind: 'formula',
      says: 'Pauses before it reverses',
      formula: 'always[0, 56] (K1 > 0.5 and speed > 5 -> eventually[0, 2] always[0, 0.2] motion < 8)',
    },
    { kind: 'backs off after bumps', atLeastMm: 100 },
    {
      kind: 'formula',
      says: 'Turns, to one side or the other',
      formula: 'eventually turned > 60 or eventually turned < -60',
    },
    { kind: 'still running', seconds: 60 },
    { kind: 'travels', atLeastMm: 2000 },
    {
      kind: 'formula',
      says: 'Never pushes on against a wall for more than a second',
      formula: 'always[0, 58] eventually[0, 1.2] (touching < 0.5 or speed < 5)',
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
  timeLimitS: 60,
  seed: 202,
});
