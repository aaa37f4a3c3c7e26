import { outline } from '../outline.ts';
import { canRun, parseScript } from '../../script/index.ts';
import type { BrokenScript, UsualFault } from './fault.ts';
import { branchLost, loopLost, stepLeftOut } from './leaveOut.ts';
import {
  comparisonFlipped,
  logicSwapped,
  sidesSwapped,
  socketsSwapped,
  waySwapped,
  wrongColour,
  wrongTouch,
} from './mixUp.ts';
import { wrongAmount, wrongCount, wrongGain, wrongSpeed, wrongThreshold, wrongUnit } from './wrongNumber.ts';

export type { BrokenScript } from './fault.ts';

const ways: readonly UsualFault[] = [
  stepLeftOut,
  loopLost,
  branchLost,
  comparisonFlipped,
  wrongTouch,
  wrongColour,
  sidesSwapped,
  waySwapped,
  logicSwapped,
  socketsSwapped,
  wrongThreshold,
  wrongSpeed,
  wrongUnit,
  wrongAmount,
  wrongCount,
  wrongGain,
];

/** A script without comments and odd spaces: what counts when two are compared. */
export const plainScript = (text: string): string =>
  text
    .split('\n')
    .map((line) => line.replace(/#.*/, '').trim().replace(/\s+/g, ' '))
    .filter(Boolean)
    .join('\n');

/** The script broken in every usual way, each once, as far as the result can still be run. */
export function usualFaults(text: string): BrokenScript[] {
  const program = parseScript(text);
  const whole = { text, lines: text.split('\n'), rows: outline(text), program };
  const seen = new Set([plainScript(text)]);
  return ways
    .flatMap((way) => way(whole))
    .filter((broken) => {
      const key = plainScript(broken.text);
      if (seen.has(key)) return false;
      seen.add(key);
      return canRun(parseScript(broken.text));
    });
}
