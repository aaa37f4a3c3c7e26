/** What each step reads like, by its first word: shown when a line starts well and then goes astray. */
export const shapes: Record<string, readonly string[]> = {
  sensor: ['sensor floor is light on K3'],
  motor: ['motor scanner is turret on M3'],
  list: ['list readings'],
  let: ['let gap = 15 cm', 'let found = no'],
  set: ['set lanes to lanes + 1', 'set gap to do measure by 4'],
  add: ['add floor to readings'],
  drive: ['drive 40 %', 'drive -30 % for 10 cm', 'drive 30 % until floor < 41 %'],
  wheels: ['wheels 40 % and 20 %', 'wheels 40 % and 20 % for 2 turns'],
  steer: ['steer 0.4 * (58 - floor) at 25 %'],
  turn: ['turn right 90 deg', 'turn left 90 deg at 20 %', 'turn right until gyro >= 88 deg'],
  spin: ['spin right at 50 %', 'spin right at 20 % until front < 50 cm'],
  stop: ['stop', 'stop and coast'],
  raw: ['raw drive 60 %', 'raw wheels 60 % and 40 %'],
  turret: ['turret left 90 deg', 'turret ahead'],
  zero: ['zero heading', 'zero wheels', 'zero timer'],
  wait: ['wait 0.5 s', 'wait until floor < 41 %', 'wait until floor drops by 30'],
  repeat: [
    'repeat',
    'repeat 4 times',
    'repeat 4 times as i',
    'repeat for 10 s',
    'repeat until floor < 41 %',
    'repeat while floor > 41 %',
  ],
  leave: ['leave'],
  finish: ['finish'],
  if: ['if floor < threshold'],
  else: ['else', 'else if floor < 41 %'],
  end: ['end'],
  show: ['show "Lanes: " and lanes'],
  clear: ['clear', 'clear readings'],
  log: ['log floor and front'],
  send: ['send "go"'],
  beep: ['beep 500 Hz for 2 s at 50 %', 'beep'],
  lamp: ['lamp red', 'lamp off'],
  task: ['task go round the buoy', 'task back off by d'],
  do: ['do go round the buoy', 'do back off by 10 cm'],
  give: ['give back average of readings', 'give back'],
  whenever: ['whenever nose is pressed'],
};

/** Other words for a step, each with the script's own: told once, and written so by the formatter. */
export const otherWords: Record<string, string> = {
  loop: 'repeat',
  forever: 'repeat',
  while: 'repeat while',
  until: 'repeat until',
  elif: 'else if',
  elseif: 'else if',
  otherwise: 'else',
  go: 'drive',
  move: 'drive',
  forward: 'drive',
  forwards: 'drive',
  back: 'drive',
  backward: 'drive',
  backwards: 'drive',
  reverse: 'drive',
  brake: 'stop',
  reset: 'zero',
  pause: 'wait',
  print: 'show',
  say: 'show',
  return: 'give back',
};

/** The shapes of a step as one phrase: "drive 40 %, or drive 40 % for 10 cm". */
export const shapeOf = (word: string): string =>
  (shapes[word] ?? shapes[(otherWords[word] ?? '').split(' ')[0]!] ?? []).join(', or ');

/** Edits (insert, delete, change, swap neighbours) from one word to another, given up above two. */
function edits(a: string, b: string): number {
  if (Math.abs(a.length - b.length) > 2) return 3;
  const rows = [Array.from({ length: b.length + 1 }, (_, j) => j)];
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const change = a[i - 1] === b[j - 1] ? 0 : 1;
      let least = Math.min(rows[i - 1]![j]! + 1, row[j - 1]! + 1, rows[i - 1]![j - 1]! + change);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        least = Math.min(least, rows[i - 2]![j - 2]! + 1);
      }
      row.push(least);
    }
    rows.push(row);
  }
  return rows[a.length]![b.length]!;
}

/** The nearest of some known words, when it is near enough to be a slip of the finger. */
export function nearest(word: string, known: Iterable<string>): string | null {
  let best: string | null = null;
  let least = word.length <= 3 ? 2 : 3;
  for (const candidate of known) {
    const distance = edits(word.toLowerCase(), candidate.toLowerCase());
    if (distance < least) [best, least] = [candidate, distance];
  }
  return best;
}
