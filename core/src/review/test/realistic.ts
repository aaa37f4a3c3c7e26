import type { ReviewContext } from '../index.ts';
import { base } from './pairs.ts';

/** What a script is tried on: what the review knows beside the robot. */
export const grounds = {
  none: base,
  line: { ...base, lineWidthMm: 18 },
  left: { ...base, lineWidthMm: 18, course: { edge: 'left' } },
  right: { ...base, lineWidthMm: 18, course: { edge: 'right' } },
  table: { ...base, course: { drop: true } },
  ring: { ...base, course: { drop: true, opponent: true, target: { widthMm: 120, rangeMm: 500 } } },
  boards: { ...base, course: { startReadings: { K3: 76 } } },
  far: { ...base, about: 'distance' },
} satisfies Record<string, ReviewContext>;

/** What a teacher would say of a script: the rule that should speak, or null where nothing is wrong. Steps are parted by “|”. */
export type Labelled = [rule: string | null, what: string, steps: string, ground?: keyof typeof grounds];

/** Scripts as teams write them, each labelled by what a teacher who watches the robot would say. */
export const realistic: Labelled[] = [
  // Rule 1: go, see, stop.
  [
    'no stop',
    'stops only in one of two branches',
    'drive 30 %|wait until nose is pressed|if front < 10 cm|stop|end',
  ],
  ['no stop', 'reverses until and forgets', 'drive -20 %|wait until front rises by 10 cm'],
  [
    'no stop',
    'a leave with the motors on',
    'repeat|drive 30 %|if nose is pressed|leave|end|end|show "there"',
  ],
  ['no stop', 'wheels at the end', 'drive 30 % for 20 cm|wheels 20 % and 40 %|wait 1 s'],
  [
    'no stop',
    'an own step that ends driving',
    'do go|show "go"|task go|drive 30 %|wait until floor < threshold|end',
  ],
  [null, 'ends with a way', 'drive 30 %|wait until nose is pressed|drive -30 % for 10 cm'],
  [null, 'ends with a turn', 'drive 30 %|wait until nose is pressed|turn right 90 deg'],
  [null, 'move until', 'drive 30 % until floor < threshold|show floor'],
  [null, 'stop inside the own step', 'do halt|task halt|drive 30 %|wait until nose is pressed|stop|end'],
  [null, 'wheels at nothing are a stop', 'drive 30 %|wait until nose is pressed|wheels 0 % and 0 %'],
  [
    null,
    'for ever by design',
    'repeat|drive 30 % until nose is pressed|drive -30 % for 10 cm|turn right 90 deg|end',
  ],

  // Rule 2: a decision taken once.
  ['decided once', 'drives and asks at once', 'drive 30 %|if front < 20 cm|stop|end|wait 3 s|stop'],
  ['decided once', 'asks before it has begun', 'if nose is pressed|drive 30 % for 20 cm|end'],
  [
    'decided once',
    'asks once while it drives, after a wait',
    'drive 30 %|wait 1 s|if floor < threshold|stop|end|wait 2 s|stop',
  ],
  [
    'decided once',
    'in an own step while driving',
    'drive 30 %|do check|wait 3 s|stop|task check|if nose is pressed|stop|end|end',
  ],
  [null, 'a tone if pressed at launch', 'if nose is pressed|beep 500 Hz for 0.5 s|end|drive 30 % for 20 cm'],
  [
    null,
    'a choice at launch',
    'if nose is pressed|turn left 90 deg|else|turn right 90 deg|end|drive 30 % for 20 cm',
  ],
  [
    null,
    'stands and looks which card it is on',
    'drive 30 % for 20 cm|if floor < 49|turn left 90 deg|else|turn right 90 deg|end',
  ],
  [
    null,
    'asks after it has waited for it',
    'drive 30 %|wait until front < 15 cm|stop|if floor < threshold|show "on the line"|end',
  ],
  [
    null,
    'asks beside the main program',
    'drive 30 % for 50 cm|whenever nose is pressed|if floor < threshold|beep|end|end',
  ],
  [null, 'asks in a repeat', 'repeat|drive 20 %|if front < 20 cm|turn right 90 deg|end|end'],
  [
    null,
    'looks left, looks right, goes where there is room',
    'let a = 0 cm|let b = 0 cm|turn left 90 deg|set a to front|turn right 180 deg|set b to front|if a > b|turn right 180 deg|end|drive 30 % for 20 cm',
  ],

  // Rule 3: one exact number.
  ['equals', 'a distance', 'drive 30 %|wait until front = 15 cm|stop'],
  ['equals', 'a heading', 'zero heading|spin right at 4 %|wait until gyro = 90|stop'],
  ['equals', 'a repeat until exactly', 'drive 20 %|repeat until floor = 49|wait 0.05 s|end|stop'],
  [
    'equals',
    'a value that holds a reading',
    'let seen = 0|drive 20 %|repeat|set seen to front|if seen = 20|leave|end|end|stop',
  ],
  [
    null,
    'a counter',
    'let n = 0|repeat until n = 3|drive 20 % until nose is pressed|drive -20 % for 5 cm|set n to n + 1|end',
  ],
  [null, 'a remainder', 'repeat 10 times as i|if remainder(i, 2) = 0|beep|end|wait 0.2 s|end'],

  // Rule 4: counting once for one.
  [
    'no re-arm',
    'lanes in a loop',
    'let lanes = 0|drive 25 %|repeat until nose is pressed|if floor < threshold|set lanes to lanes + 1|end|end|stop',
    'line',
  ],
  [
    'no re-arm',
    'through an own step',
    'let lanes = 0|drive 25 %|repeat until nose is pressed|if floor < threshold|do count|end|end|stop|task count|set lanes to lanes + 1|beep|end',
    'line',
  ],
  ['no re-arm', 'a press that is held', 'let n = 0|repeat|if nose is pressed|set n to n + 1|show n|end|end'],
  [
    'no re-arm',
    'waits too short for the line',
    'let n = 0|drive 20 %|repeat until nose is pressed|if floor < threshold|set n to n + 1|wait 0.02 s|end|end|stop',
    'line',
  ],
  [
    'no re-arm',
    'waits for the level, counts, waits for it again',
    'let n = 0|drive 20 %|repeat 4 times|wait until floor < threshold|set n to n + 1|end|stop',
    'line',
  ],
  ['no re-arm', 'near and not far again', 'let n = 0|repeat|if front < 20 cm|set n to n + 1|end|end'],
  [
    null,
    'waits for the other level',
    'let n = 0|drive 20 %|repeat 4 times|wait until floor < threshold|set n to n + 1|wait until floor > threshold|end|stop',
    'line',
  ],
  [
    null,
    'drives off the line before it looks again',
    'let n = 0|repeat 4 times|drive 20 % until floor < threshold|set n to n + 1|drive 20 % for 6 cm|end',
    'line',
  ],
  [
    null,
    'waits long enough to be past it',
    'let n = 0|drive 30 %|repeat 4 times|wait until floor < threshold|set n to n + 1|wait 0.5 s|end|stop',
    'line',
  ],
  [
    null,
    'ended by a flag',
    'let n = 0|let found = no|repeat until found|if front < 20 cm|set n to n + 1|set found to yes|end|end',
  ],
  [
    null,
    'a flag is the re-arm',
    'let n = 0|let over = no|drive 20 %|repeat until nose is pressed|if floor < threshold and not over|set n to n + 1|set over to yes|else if floor > threshold|set over to no|end|end|stop',
    'line',
  ],
  [
    null,
    'nested flag',
    'let n = 0|let was = 0|drive 20 %|repeat until nose is pressed|if floor < threshold|if was = 0|set n to n + 1|end|set was to 1|else|set was to 0|end|end|stop',
    'line',
  ],
  [
    null,
    'counts beside the main program: once for each time',
    'let n = 0|drive 20 % for 80 cm|show n|whenever floor < threshold|set n to n + 1|end',
    'line',
  ],
  [
    null,
    'falls and rises',
    'let n = 0|drive 20 %|repeat 4 times|wait until floor drops by 30|set n to n + 1|wait until floor rises by 30|end|stop',
    'line',
  ],
  [
    null,
    'leaves at the first',
    'let n = 0|drive 20 %|repeat|if floor < threshold|set n to n + 1|leave|end|end|stop',
    'line',
  ],
  [null, 'bumps are events', 'let n = 0|repeat 3 times|wait until nose is bumped|set n to n + 1|show n|end'],
  [
    'never reset',
    'a flag that is never set back',
    'let n = 0|let over = 0|drive 20 %|repeat until nose is pressed|if floor < threshold and over = 0|set n to n + 1|set over to 1|end|end|stop',
    'line',
  ],

  // Rule 5: what hides a test.
  ['hidden test', 'a way longer than the room', 'repeat until front < 18 cm|drive 40 % for 30 cm|end'],
  [
    'hidden test',
    'a way longer than the line is wide',
    'repeat until floor < threshold|drive 30 % for 10 cm|end',
    'line',
  ],
  [
    'hidden test',
    'waits for the line',
    'repeat until front < 20 cm|drive 30 %|wait until floor < threshold|stop|beep|end|stop',
  ],
  [
    'hidden test',
    'drives for seconds at a time',
    'repeat until nose is pressed|drive 30 %|wait 3 s|end|stop',
  ],
  [
    'hidden test',
    'a long tone while driving',
    'drive 30 %|repeat until nose is pressed|beep 400 Hz for 2 s|end|stop',
  ],
  ['hidden test', 'while: a way longer than the room', 'repeat while front > 20 cm|drive 30 % for 25 cm|end'],
  [null, 'short ways', 'repeat until front < 18 cm|drive 30 % for 5 cm|end'],
  [
    null,
    'a count asks for no look',
    'let n = 0|repeat until n >= 3|drive 30 % until nose is pressed|drive -30 % for 10 cm|set n to n + 1|end',
  ],
  [
    null,
    'the wait ends for both',
    'repeat until nose is pressed|drive 20 %|wait until floor < threshold or nose is pressed|stop|end',
  ],
  [
    null,
    'a flag ends it',
    'let done = no|repeat until done|drive 20 % until floor < threshold|turn right 90 deg|set done to front < 20 cm|end',
  ],
  [
    null,
    'short waits while driving',
    'drive 20 %|repeat until nose is pressed|show front|wait 0.1 s|end|stop',
  ],
  [
    null,
    'leaves by itself',
    'repeat|drive 20 % until floor < threshold|if front < 15 cm|leave|end|drive 20 % for 5 cm|end',
  ],

  // Rule 7: numbers that are never given.
  ['out of range', 'a fraction', 'drive 30 %|wait until floor < 0.4|stop'],
  ['out of range', 'less than nothing', 'drive 30 %|wait until floor < 0|stop'],
  ['out of range', 'more than everything', 'drive 30 %|wait until floor > 100|stop'],
  [
    'out of range',
    'farther than it hears',
    'drive -20 %|wait until front > 260 cm and front is not nothing|stop',
  ],
  ['out of range', 'a button that reads 5', 'drive 30 %|wait until nose = 5|stop'],
  ['out of range', 'a button above 1', 'drive 30 %|wait until nose > 1|stop'],
  ['same side', 'both surfaces are darker', 'drive 30 %|wait until floor < 85|stop'],
  ['same side', 'both surfaces are lighter', 'drive 30 %|wait until floor < 12|stop'],
  [
    'same side',
    'through a value that holds the reading',
    'let seen = 0|drive 30 %|repeat|set seen to floor|if seen < 10|leave|end|end|stop',
  ],
  [
    'same side',
    'through an own step',
    'do until dark by 90 %|task until dark by level|drive 30 % until floor < level|end',
  ],
  ['same side', 'a threshold with too much added', 'drive 30 %|wait until floor < threshold + 40|stop'],
  ['same side', 'falls by more than there is between them', 'drive 30 %|wait until floor drops by 70|stop'],
  [
    'same side',
    'rises by more than there is',
    'drive 30 %|wait until floor < threshold|wait until floor rises by 60|stop',
  ],
  ['in the noise', 'a hair below the boards', 'drive 30 %|wait until floor < 71|stop'],
  [null, 'falls by about half', 'drive 30 %|wait until floor drops by 27|stop'],
  [null, 'a button that reads 1', 'drive 30 %|wait until nose = 1|stop'],
  [null, 'a threshold with a little added', 'drive 30 %|wait until floor < threshold + 5|stop'],
  [null, 'a level in a value', 'let level = 49 %|drive 30 %|wait until floor < level|stop'],

  // Rule 9: too fast.
  ['cannot stop', 'full speed, little room', 'repeat while front > 5 cm|drive 100 %|end|stop'],
  ['cannot stop', 'move until at full speed', 'drive 100 % until front < 6 cm'],
  ['cannot stop', 'a speed in a value', 'let fast = 100 %|drive fast|wait until front < 6 cm|stop'],
  ['too fast', 'over a narrow line', 'drive 100 % until floor < threshold', 'line'],
  [null, 'full speed, much room', 'drive 100 % until front < 60 cm'],
  [null, 'slow over the line', 'drive 40 % until floor < threshold', 'line'],
  [null, 'slows down as it comes near', 'drive 80 % until front < 50 cm|drive 20 % until front < 10 cm'],

  // Rule 10: no echo.
  ['no reading', 'waits to be far away', 'drive -20 %|wait until front > 40 cm|stop'],
  ['no reading', 'a repeat until far', 'drive -20 %|repeat until front > 40 cm|wait 0.05 s|end|stop'],
  [
    'no reading',
    'turns where nothing is near',
    'repeat|drive 20 %|if front > 60 cm|turn right 90 deg|end|end',
  ],
  [null, 'between two ways', 'repeat|drive 20 %|if front > 5 cm and front < 20 cm|turn right 90 deg|end|end'],
  [null, 'between two ways, said short', 'drive 20 %|wait until front > 5 cm and < 20 cm|stop'],
  ['too near to see', 'nearer than it sees', 'drive 20 %|wait until front < 2 cm|stop'],
  [null, 'drives while nothing is near', 'drive 30 %|repeat while front > 15 cm|wait 0.05 s|end|stop'],
  [null, 'the way is free: drives on', 'repeat|if front > 25 cm|drive 30 %|else|turn right 90 deg|end|end'],
  [null, 'asks for an echo as well', 'drive -20 %|wait until front > 40 cm and front is not nothing|stop'],

  // Rule 11: headings.
  ['not zeroed', 'steers by a heading', 'repeat for 5 s|steer -2 * gyro at 30 %|end|stop'],
  ['not zeroed', 'turns until', 'turn right until gyro >= 88'],
  ['wrong way', 'left counts down', 'zero heading|turn left until gyro > 80'],
  ['overshoots', 'spins hot', 'zero heading|turn right at 60 % until gyro >= 90'],
  [null, 'aims short of it', 'zero heading|spin right at 15 %|wait until gyro > 86|stop'],
  [
    null,
    'fast, then slow',
    'zero heading|spin right at 40 %|wait until gyro > 60|spin right at 4 %|wait until gyro > 90|stop',
  ],
  [null, 'turns back', 'zero heading|spin left at 4 %|wait until gyro < -90|stop'],
  [null, 'counts from where it began', 'spin right at 4 %|wait until gyro rises by 90|stop'],

  // Rule 12: the edge.
  [
    'away from the edge',
    'an error with the wrong sign',
    'let error = 0|repeat for 10 s|set error to threshold - floor|steer error at 20 %|end|stop',
    'left',
  ],
  [
    'away from the edge',
    'through an own step',
    'repeat for 10 s|do follow by threshold - floor|end|stop|task follow by e|steer 0.6 * e at 20 %|end',
    'left',
  ],
  [
    'away from the edge',
    'three zones reversed',
    'repeat for 10 s|if floor < 35|steer 40 at 20 %|else if floor > 60|steer -40 at 20 %|else|drive 20 %|end|end|stop',
    'left',
  ],
  [
    'away from the edge',
    'branches swapped',
    'repeat for 10 s|if floor > threshold|wheels 10 % and 30 %|else|wheels 30 % and 10 %|end|end|stop',
    'left',
  ],
  [
    'away from the edge',
    'nested branches swapped',
    'repeat for 10 s|if floor < threshold|steer 30 at 20 %|else|if floor > 60|steer -30 at 20 %|else|drive 20 %|end|end|end|stop',
    'left',
  ],
  [
    'away from the edge',
    'move until, sign turned',
    'steer 0.6 * (threshold - floor) at 20 % until nose is pressed',
    'left',
  ],
  [
    'away from the edge',
    'one way only',
    'repeat for 10 s|if floor < threshold|wheels 10 % and 30 %|else|wheels 20 % and 30 %|end|end|stop',
  ],
  [
    null,
    'an error with the right sign',
    'let error = 0|repeat for 10 s|set error to floor - threshold|steer error at 20 %|end|stop',
    'left',
  ],
  [
    null,
    'three zones',
    'repeat for 10 s|if floor < 35|steer -40 at 20 %|else if floor > 60|steer 40 at 20 %|else|drive 20 %|end|end|stop',
    'left',
  ],
  [
    null,
    'the right edge, its own way',
    'repeat for 10 s|steer 0.6 * (threshold - floor) at 20 %|end|stop',
    'right',
  ],
  [
    null,
    'either edge may be followed',
    'repeat for 10 s|steer 0.6 * (threshold - floor) at 20 %|end|stop',
    'line',
  ],
  [
    null,
    'P and a memory',
    'let error = 0|let last = 0|repeat for 10 s|set error to floor - threshold|steer 0.6 * error + 2 * (error - last) at 20 %|set last to error|end|stop',
    'left',
  ],
  [
    null,
    'turns away from what is in front',
    'repeat|if front < 20 cm|spin right at 20 %|else|drive 20 %|end|end',
  ],

  // Rule 13: never done.
  [
    'never reached',
    'after a loop for ever',
    'repeat|drive 20 % until nose is pressed|turn right 90 deg|end|show "done"',
  ],
  ['never reached', 'after giving back', 'let x = 0|set x to do two|show x|task two|give back 2|beep|end'],
  [
    null,
    'a loop that something leaves',
    'repeat|drive 20 % until nose is pressed|if front < 10 cm|leave|end|turn right 90 deg|end|show "done"',
  ],

  // Rule 14: true at the start.
  ['true at start', 'waits for what is so already', 'drive 30 %|wait until floor > threshold|stop', 'boards'],
  ['true at start', 'a loop over at once', 'repeat while floor < threshold|drive 20 %|end|stop', 'boards'],
  [
    null,
    'waits for the opposite first',
    'drive 30 %|wait until floor < threshold|wait until floor > threshold|stop',
    'boards',
  ],

  // Rule 15: not set again.
  [
    'never reset',
    'a count in a loop in a loop',
    'let n = 0|repeat 2 times|repeat until n >= 3|beep 500 Hz for 0.2 s|set n to n + 1|end|wait 1 s|end',
  ],
  [
    'never reset',
    'the timer goes on',
    'repeat 3 times|drive 20 %|wait until timer > 2 s|stop|turn right 90 deg|end',
  ],
  [
    null,
    'a count set again',
    'let n = 0|repeat 2 times|set n to 0|repeat until n >= 3|beep 500 Hz for 0.2 s|set n to n + 1|end|wait 1 s|end',
  ],
  [
    null,
    'the timer set again',
    'repeat 3 times|zero timer|drive 20 %|wait until timer > 2 s|stop|turn right 90 deg|end',
  ],

  // Rule 16: cautions.
  ['no watcher', 'by distance on a table', 'drive 30 % until front < 10 cm|turn right 90 deg', 'table'],
  ['no watcher', 'by the clock on a table', 'drive 30 %|wait 3 s|stop', 'table'],
  [
    'hands off',
    'begins at once',
    'repeat|drive 60 % until floor < threshold|drive -40 % for 10 cm|turn right 120 deg|end',
    'ring',
  ],
  ['hands off', 'waits a second', 'wait 1 s|drive 60 % until floor < threshold|stop', 'ring'],
  ['reversing blind', 'back until it is touched', 'drive -30 %|wait until nose is pressed|stop'],
  ['reversing blind', 'back for long', 'drive -40 % for 4 s'],
  [
    null,
    'watches the edge',
    'repeat|drive 30 % until floor < threshold|drive -30 % for 10 cm|turn right 120 deg|end',
    'table',
  ],
  [
    null,
    'three beeps of a second',
    'repeat 3 times|beep 500 Hz for 1 s|end|drive 60 % until floor < threshold|stop',
    'ring',
  ],
  [
    null,
    'counts down with the timer',
    'wait until timer > 3 s|drive 60 % until floor < threshold|stop',
    'ring',
  ],
  [
    null,
    'two wheel turns back',
    'drive 30 % until nose is pressed|drive -30 % for 2 turns|turn right 90 deg',
  ],
  [null, 'back until far enough', 'drive -30 %|wait until front rises by 12 cm|stop'],
  [null, 'back by the wheels', 'zero wheels|drive -20 %|wait until left wheel < -1 turns|stop'],
  [null, 'back until the line', 'drive -15 % until floor < threshold'],

  // Worked out once, stops for a moment, never asked.
  [
    'worked out once',
    'steers once',
    'steer 0.6 * (floor - threshold) at 20 %|wait until nose is pressed|stop',
  ],
  ['worked out once', 'for a way', 'steer 2 * (front - 20) at 20 % for 50 cm'],
  ['worked out once', 'a speed for a time', 'drive 2 * (front - 15) for 3 s'],
  [null, 'worked out anew until', 'steer 0.6 * (floor - threshold) at 20 % until nose is pressed'],
  [null, 'for a way, anew until', 'steer 2 * (front - 20) at 20 % for 50 cm until nose is pressed'],
  [null, 'for a time, anew until', 'drive 2 * (front - 15) for 20 s until nose is pressed'],
  ['equals', 'for a way until one exact number', 'drive 30 % for 100 cm until front = 15 cm'],
  ['equals', 'one exact angle or three seconds', 'spin right at 20 % for 3 s until gyro = 90 deg'],
  [null, 'in a repeat', 'repeat until nose is pressed|steer 0.6 * (floor - threshold) at 20 %|end|stop'],
  [
    'stops for a moment',
    'stops beside the main program',
    'drive 20 %|wait 5 s|stop|whenever nose is pressed|stop|end',
  ],
  [null, 'stops and finishes beside it', 'drive 20 %|wait 5 s|stop|whenever nose is pressed|stop|finish|end'],
  ['never asked', 'by the clock', 'drive 40 %|wait 2.2 s|stop', 'far'],
  ['never asked', 'by heart', 'drive 40 % for 85 cm', 'far'],
  [null, 'asks it', 'drive 40 % until front < 15 cm', 'far'],

  // A second helping, written after the rules had been mended on the first: whole little programs.
  [
    'no stop',
    'wanders and ends on the move',
    'repeat 3 times|drive 30 % until front < 20 cm|turn left 90 deg|end|drive 30 %|wait 2 s',
  ],
  [
    null,
    'wanders and ends standing',
    'repeat 3 times|drive 30 % until front < 20 cm|turn left 90 deg|end|drive 30 % for 20 cm',
  ],
  [
    'no stop',
    'follows a wall and forgets',
    'repeat until nose is pressed|steer 2 * (front - 20) at 25 %|end',
  ],
  [
    'decided once',
    'looks for the line once on its way',
    'drive 25 %|wait 0.5 s|if floor < threshold|stop|beep|else|drive 50 %|end|wait 2 s|stop',
  ],
  [
    null,
    'parks, looks, tells',
    'drive 25 % until front < 20 cm|if floor < threshold|show "line"|else|show "boards"|end',
  ],
  [
    null,
    'a decision on a drawn number',
    'let way = 0|set way to random from 1 to 2|if way = 1|turn left 90 deg|else|turn right 90 deg|end|drive 30 % for 20 cm',
  ],
  [
    'equals',
    'wheels at exactly a turn',
    'zero wheels|drive 20 %|repeat until right wheel = 360 deg|wait 0.01 s|end|stop',
  ],
  [
    'no re-arm',
    'counts posts by distance',
    'let posts = 0|drive 20 %|repeat until nose is pressed|if front < 30 cm|set posts to posts + 1|end|wait 0.05 s|end|stop',
  ],
  [
    null,
    'counts posts and waits for the gap',
    'let posts = 0|drive 20 %|repeat until nose is pressed|if front < 30 cm|set posts to posts + 1|wait until front > 30 cm or nose is pressed|end|end|stop',
  ],
  [
    null,
    'counts presses by bump',
    'let n = 0|repeat until n >= 5|if nose is bumped|set n to n + 1|show n|end|end',
  ],
  [
    'no re-arm',
    'adds to a score while dark',
    'let score = 0|drive 15 %|repeat for 10 s|if floor < threshold|set score to score + 10|end|end|stop',
  ],
  [
    null,
    'averages while dark',
    'list dark|drive 15 %|repeat for 10 s|if floor < threshold|add floor to dark|end|end|stop|show average of dark',
  ],
  [
    'hidden test',
    'patrols until pressed',
    'repeat until nose is pressed|drive 30 % for 2 s|wait 1 s|wait until front < 30 cm|turn right 180 deg|end',
  ],
  [null, 'patrols a number of times', 'repeat 4 times|drive 30 % until front < 30 cm|turn right 180 deg|end'],
  [
    'hidden test',
    'longer than the line, in an own step of its own',
    'repeat until floor < threshold|drive 25 % for 8 cm|show floor|end|stop',
    'line',
  ],
  [null, 'inches along', 'repeat until floor < threshold|drive 20 % for 1 cm|end|stop', 'line'],
  ['out of range', 'a percentage over a hundred', 'drive 30 % until floor > 120'],
  ['out of range', 'a rise no sensor has', 'drive 30 %|wait until front rises by 300 cm|stop'],
  [
    'same side',
    'typed from another room',
    'repeat for 10 s|if floor > 90|wheels 30 % and 10 %|else|wheels 10 % and 30 %|end|end|stop',
  ],
  [
    'same side',
    'a level worked out',
    'let level = 0 %|set level to threshold of floor / 4|drive 30 % until floor < level',
  ],
  [
    null,
    'a level worked out between',
    'let level = 0 %|set level to (22 % + threshold of floor) / 2|drive 30 % until floor < level',
  ],
  [
    'cannot stop',
    'hot with the stop in the loop',
    'drive 100 %|repeat until front < 6 cm|wait 0.01 s|end|stop',
  ],
  [null, 'hot, then stops early', 'drive 100 %|wait until front < 50 cm|stop'],
  ['no reading', 'leaves the loop when far', 'drive 20 %|repeat|if front > 80 cm|leave|end|end|stop'],
  [null, 'goes on while far', 'repeat while front > 30 cm|drive 40 %|end|stop'],
  ['not zeroed', 'holds a bearing', 'wheels 30 + gyro and 30 - gyro|wait 3 s|stop'],
  [null, 'holds a bearing from here', 'zero gyro|repeat for 3 s|wheels 30 + gyro and 30 - gyro|end|stop'],
  [
    'wrong way',
    'right until it is minus ninety',
    'zero heading|spin right at 4 %|wait until gyro < -90|stop',
  ],
  [
    'away from the edge',
    'error in an own step, wrong sign',
    'let e = 0|repeat for 9 s|do look|steer 0.7 * e at 20 %|end|stop|task look|set e to threshold - floor|end',
    'left',
  ],
  [
    null,
    'error in an own step, right sign',
    'let e = 0|repeat for 9 s|do look|steer 0.7 * e at 20 %|end|stop|task look|set e to floor - threshold|end',
    'left',
  ],
  [
    'away from the edge',
    'wheels by an error',
    'let e = 0|repeat for 9 s|set e to floor - threshold|wheels 20 - e and 20 + e|end|stop',
    'left',
  ],
  [
    null,
    'wheels by an error, right',
    'let e = 0|repeat for 9 s|set e to floor - threshold|wheels 20 + e and 20 - e|end|stop',
    'left',
  ],
  [
    'never reached',
    'steps after an endless while',
    'repeat while 1 < 2|drive 20 % until nose is pressed|drive -20 % for 5 cm|end|show "never"',
  ],
  ['true at start', 'until what is so', 'repeat until floor > 60|drive 20 %|end|stop', 'boards'],
  [
    'never reset',
    'laps of four sides by a count',
    'let sides = 0|repeat 3 times|repeat while sides < 4|drive 30 % for 20 cm|turn right 90 deg|set sides to sides + 1|end|beep|end',
  ],
  ['no watcher', 'a square on a table', 'repeat 4 times|drive 30 % for 60 cm|turn right 90 deg|end', 'table'],
  ['hands off', 'a lamp is no wait', 'lamp green|drive 50 % until floor < threshold|stop', 'ring'],
  [
    null,
    'waits for the bump, then three seconds',
    'wait until nose is bumped|wait 3 s|drive 50 % until floor < threshold|stop',
    'ring',
  ],
  ['reversing blind', 'a metre back', 'drive 30 % until nose is pressed|drive -40 % for 100 cm'],
  [null, 'a foot back', 'drive 30 % until nose is pressed|drive -30 % for 12 in|turn right 90 deg'],
  [
    'worked out once',
    'wheels by a distance',
    'wheels 2 * (front - 10) and 2 * (front - 10)|wait until nose is pressed|stop',
  ],
  ['never asked', 'by turns of the wheels', 'drive 40 % for 5 turns|turn right 90 deg', 'far'],
];
