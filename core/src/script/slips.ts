/** First words that come from somewhere else, and what stands for them here. Tried before any guess by spelling. */
const steps: readonly (readonly [words: string, instead: string])[] = [
  [
    'function def define void procedure sub proc func',
    'An own step is written: task go round, its steps, end.',
  ],
  ['break', 'Write “leave” to go out of the nearest repeat.'],
  ['exit quit', 'Write “finish” to end the program.'],
  ['continue next', 'Put the rest of the round into an “if”, so that it is left out when it should be.'],
  ['delay sleep', 'Write, for example: wait 0.5 s.'],
  ['endif endwhile endloop endfor endrepeat endtask fi done', 'Write “end”.'],
  ['var int float bool const global variable make create dim local', 'Write, for example: let lanes = 0.'],
  ['call run perform execute', 'Write, for example: do go round.'],
  ['sound play tone note', 'Write, for example: beep 500 Hz for 0.5 s.'],
  ['led', 'Write, for example: lamp green.'],
  ['write display output', 'Write, for example: show "hello".'],
  ['rotate pivot', 'Write, for example: turn right 90 deg.'],
  ['left', 'Write, for example: turn left 90 deg.'],
  ['right', 'Write, for example: turn right 90 deg.'],
  ['motors speed power straight run_motors', 'Write, for example: drive 40 %.'],
  ['halt', 'Write “stop”.'],
  ['when on every', 'Write, for example: whenever nose is pressed, its steps, end.'],
  ['switch case match select', 'Write: if …, else if …, else, end.'],
  ['for', 'Write, for example: repeat 4 times, or: repeat for 10 s.'],
  ['increase increment inc', 'Write, for example: set lanes to lanes + 1.'],
  ['decrease decrement dec', 'Write, for example: set lanes to lanes - 1.'],
  ['wait_until waituntil waitfor', 'Write, for example: wait until floor < 41 %.'],
  [
    'read measure get check sense',
    'A reading needs no step of its own: use the sensor’s name where you need it.',
  ],
  ['then', 'Leave “then” out: the next line is what happens then.'],
  ['begin start main import include class try', 'Leave this line out: a script simply begins.'],
  ['not and or', 'A question stands in a step: if …, wait until …, repeat while ….'],
];
const stepTable = new Map(steps.flatMap(([words, says]) => words.split(' ').map((word) => [word, says])));

/** What to type for a first word that is no step here; null for a word that is in no table. */
export const stepInstead = (word: string): string | null => stepTable.get(word.toLowerCase()) ?? null;

/** Words that are asked for as if they were names. */
const names: readonly (readonly [words: string, instead: string])[] = [
  ['pressed released bumped', 'Say which sensor, for example: nose is pressed.'],
  ['red green blue yellow black white', 'Say which sensor sees it, for example: seen is green.'],
  ['time seconds clock', 'The time since the start is called “timer”.'],
  ['distance', 'Declare the sensor at the top, then use its name: sensor front is distance on K2.'],
  ['touch button bumper', 'Declare the sensor at the top, then use its name: sensor nose is touch on K1.'],
  ['light reflection', 'Declare the sensor at the top, then use its name: sensor floor is light on K3.'],
  ['colour color', 'Declare the sensor at the top, then use its name: sensor seen is colour on K4.'],
  ['heading gyro angle', 'Declare the sensor at the top, then use its name: sensor gyro is heading on K5.'],
  ['wheel wheels', 'Say which one: left wheel, or right wheel.'],
  ['on', 'A yes-or-no value is yes or no.'],
  ['off', 'A yes-or-no value is yes or no.'],
  ['none null nil', 'No reading is asked for like this: front is nothing.'],
];
const nameTable = new Map(names.flatMap(([words, says]) => words.split(' ').map((word) => [word, says])));

/** What to type for a name that stands for nothing; null when no table knows it. */
export const wordInstead = (name: string): string | null => nameTable.get(name.toLowerCase()) ?? null;

/** Signs that belong to other languages, in the order in which they are looked for. */
const signs: readonly (readonly [sign: RegExp, says: string, instead: string])[] = [
  [/^\d*,\d/, 'Numbers are written with a point here.', 'Write, for example, 0.5 instead of 0,5.'],
  [/^:\s*$/, 'No colon is needed at the end of a line.', 'Leave the colon out.'],
  [
    /^[{}]/,
    'Blocks have no curly brackets here.',
    'A block begins with its first line and closes with “end”.',
  ],
  [/^;/, 'No semicolon is needed.', 'Leave it out: one step a line.'],
  [/^(\+\+|--|[-+*/]=)/, 'A value is changed by “set”.', 'Write, for example: set lanes to lanes + 1.'],
  [/^&+/, '“&” is no word of the script.', 'Write “and”.'],
  [/^\|+/, '“|” is no word of the script.', 'Write “or”.'],
  [/^!/, '“!” is no word of the script.', 'Write “not”, or <> for “is not”.'],
  [/^mod\b/i, '“mod” is no word of the script.', 'Write, for example: remainder(lanes, 2).'],
  [/^(\^|\*\*)/, 'There is no sign for a power.', 'Multiply: x * x.'],
];

/** What is wrong with a sign that comes from another language, where a line goes astray; null for any other. */
export function signInstead(rest: string): { says: string; mend: string } | null {
  const found = signs.find(([sign]) => sign.test(rest));
  return found ? { says: found[1], mend: found[2] } : null;
}
