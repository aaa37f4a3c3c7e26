import type { OtherRight } from './other.ts';

/** Other right answers to the lessons of `touch.ts`, by lesson. */
export const rightOfTouch: Record<string, OtherRight[]> = {
  'first-watch': [
    {
      name: 'Asks again and again: stands while the button is pressed, drives else, and ends by time.',
      script: `sensor nose is touch on K1
show "press to start"
wait until nose is bumped
clear
repeat until timer > 12.5 s
  if nose is pressed
    stop
  else
    drive 30 %
  end
end
stop
`,
    },
    {
      name: 'Says “waiting” instead of “press to start”.',
      change: [['show "press to start"', 'show "waiting"']],
    },
    {
      name: 'Drives at 20 %.',
      change: [
        ['show "press to start"', 'show "press me"'],
        ['drive 30 %', 'drive 20 %'],
      ],
    },
  ],
  'bump-and-turn': [
    {
      name: 'Asks again and again instead of waiting.',
      script: `sensor nose is touch on K1
repeat
  if nose is pressed
    stop
    wait 0.5 s
    wheels -30 % and -30 % for 400 deg
    turn right 90 deg
  else
    drive 35 %
  end
end
`,
    },
    {
      name: 'Backs off by two turns of the wheels.',
      change: [
        [
          '  do back off and turn\nend\n\ntask back off and turn\n  drive -30 % for 1 turns',
          '  drive -30 % for 2 turns',
        ],
      ],
    },
    {
      name: 'Turns to the left: any turn leads on.',
      script: `sensor nose is touch on K1
repeat
  drive 30 %
  wait until nose is pressed
  stop
  wait 1 s
  drive -20 % for 15 cm
  turn left 100 deg
end
`,
    },
  ],
};
