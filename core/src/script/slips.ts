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
  ['led light', 'Write, for example: lamp green.'],
  ['random', 'Write, for example: set lanes to random from 1 to 6.'],
  ['write display output', 'Write, for example: show "hello".'],
  ['rotate pivot', 'Write, for example: turn right 90 deg.'],
  ['left', 'Write, for example: turn left 90 deg.'],
  ['right', 'Write, for example: turn right 90 deg.'],
  ['motors speed power straight run_motors', 'Write, for example: drive 40 %.'],
  ['halt', 'Write “stop”.'],
  ['when on every', 'Write, for example: whenever nose is pressed, its steps, end.'],
  ['switch case match select', 'Write: if …, else if …, else, end.'],
  ['for', 'Write, for example: repeat 4 times, or: repeat for 10 s.'],
  ['increase increment inc change raise', 'Write, for example: set lanes to lanes + 1.'],
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
  ['forward forwards back backward backwards reverse', 'Say how fast, for example: drive -30 % for 10 cm.'],
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

/** How lines of known steps usually go astray, by the whole line, and what to write. In the order in which they are tried. */
const lines: readonly (readonly [line: RegExp, instead: (found: RegExpExecArray) => string])[] = [
  [/^(.*\S)\s+do$/i, ([, head]) => `Leave “do” out: ${head}.`],
  [
    /^if\s+(.*?)\s+then\s+\S/i,
    ([, test]) => `Its steps stand on lines of their own, and “end” closes it: if ${test}.`,
  ],
  [/\bthen\s+\S/i, () => 'One step a line: write the rest on the next line.'],
  [
    /^(drive|go|forward|forwards|back|backwards?|reverse)\s+((?:forwards?|back|backwards?)\s+)?until\b/i,
    ([, verb, way = '']) =>
      `Say how fast, for example: ${verb!.toLowerCase()} ${way}30 % until floor < 41 %.`,
  ],
  [
    /^(drive|go|forward|forwards|back|backwards?|reverse)\b.*\d\s*(cm|mm|in|s|ms)\s+at\b/i,
    () => 'The speed comes first, for example: drive 30 % for 10 cm.',
  ],
  [/^turn\s+(around|round|back)\b/i, () => 'Write, for example: turn right 180 deg.'],
  [
    /^turn\s+(\d.*?)\s+(left|right)$/i,
    ([, by, side]) => `The side comes first: turn ${side!.toLowerCase()} ${by}.`,
  ],
  [
    /^(turn|spin)\s+until\b\s*(.*)$/i,
    ([, verb, test]) => `Say which way: ${verb!.toLowerCase()} right until ${test}.`,
  ],
  [/^turn\s+(the\s+)?(lamp|light|led)\b/i, () => 'Write, for example: lamp green, or: lamp off.'],
  [/^stop\s+for\s+(.+)$/i, ([, time]) => `These are two steps: stop, and on the next line: wait ${time}.`],
  [/^(stop|finish)\s+(the\s+)?program\b/i, () => 'Write “finish” alone.'],
  [/^stop\s+(the\s+)?(motors?|driving|all|moving|robot|wheels)\b/i, () => 'Write “stop” alone.'],
  [/\bbetween\s+(.+?)\s+and\s+(.+)$/i, ([, low, high]) => `Ask for both ends: > ${low} and < ${high}.`],
  [
    /([\p{L}_][\p{L}\p{N}_]*)\s+(less|more|greater|smaller)\s+than\b/iu,
    ([, name, word]) => `“is” is missing: ${name} is ${word} than ….`,
  ],
  [
    /^set\s+([\p{L}_][\p{L}\p{N}_ ]*?)\s*=\s*(.+)$/iu,
    ([, name, value]) => `Write “to” instead of “=”: set ${name} to ${value}.`,
  ],
  [/^let\s+(.+?)\s+be\s+(.+)$/i, ([, name, value]) => `Write “=”: let ${name} = ${value}.`],
  [
    /^(show|print|say)\s+("[^"]*")\s*,?\s*(?!and\b)(\S.*)$/i,
    ([, , text, rest]) => `Join them with “and”: show ${text} and ${rest}.`,
  ],
  [
    /^(log|wheels|show)\s+([^,]+),\s*(.+)$/i,
    ([, verb, one, other]) => `Join them with “and”: ${verb!.toLowerCase()} ${one} and ${other}.`,
  ],
  [/^beep\s+(\d+)\s+times\b/i, ([, n]) => `Put it into a repeat: repeat ${n} times, beep for 0.2 s, end.`],
  [
    /^steer\s+(left|right)\s+(\d+)/i,
    ([, side, by]) =>
      `Right is above 0 and left below: steer ${side!.toLowerCase() === 'left' ? '-' : ''}${by} at 30 %.`,
  ],
  [/^steer\s+(?!.*\bat\b)(\S.*)$/i, ([, by]) => `Say how fast: steer ${by} at 30 %.`],
  [
    /\brandom\s+(?:number\s+)?(?!from\b)(\S+\s+to\s+.+)$/i,
    ([, range]) => `“from” is missing: random from ${range}.`,
  ],
  [/\ba\s+random\s+number\s+from\s+(.+)$/i, ([, range]) => `Write: random from ${range}.`],
  [/^send\s+([^"].*)$/i, ([, word]) => `The word stands in quotes: send "${word}".`],
];

/** What to write for a line of a known step that goes astray in a usual way; null for any other. */
export function lineInstead(line: string): string | null {
  const plain = line.replace(/#.*$/, '').trim().replace(/\s+/g, ' ');
  for (const [pattern, instead] of lines) {
    const found = pattern.exec(plain);
    if (found) return instead(found);
  }
  return null;
}

/** What light and dark are called, which no sensor says by itself. */
export function surfaceInstead(word: string, name: string): string | null {
  if (/^(dark|black|line|on)$/i.test(word)) return `Ask: ${name} < threshold.`;
  return /^(bright|white|floor|off)$/i.test(word) ? `Ask: ${name} > threshold.` : null;
}
