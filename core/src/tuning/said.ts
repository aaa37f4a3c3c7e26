import { unitOfWord } from '../script/index.ts';
import type { TrialKnob } from './walk.ts';

/** A number out of what somebody wrote, with its unit and the words before it: “gain 0.6, 20 %” is gain 0.6 and 20 %. */
export interface SaidValue {
  words: string[];
  value: number;
  unit: string;
}

const NUMBER = /(?<![\p{L}\d.,])-?\d+(?:[.,]\d+)?/gu;
/** Words that join numbers and name nothing. */
const joining = new Set(['to', 'from', 'and', 'now', 'is', 'at', 'of', 'the', 'by', 'then', 'instead']);

/** The numbers that were said to be changed; of “30 to 20” and “30 → 20” the last one. */
export function saidValues(text: string): SaidValue[] {
  const plain = text.replaceAll('−', '-');
  const found: SaidValue[] = [];
  let end = 0;
  for (const match of plain.matchAll(NUMBER)) {
    const between = plain.slice(end, match.index);
    const after = plain.slice(match.index + match[0].length);
    const word = /^\s*([%°]|\p{L}+)/u.exec(after)?.[1] ?? '';
    const unit = word === '°' ? 'deg' : word === '%' ? '%' : (unitOfWord(word) ?? '');
    end = match.index + match[0].length + (unit === '' ? 0 : after.indexOf(word) + word.length);
    const value = Number(match[0].replace(',', '.'));
    const last = found.at(-1);
    if (last && /^\s*(to|→|->|instead of)\s*$/i.test(between)) {
      // “20 instead of 30” says the new one first.
      if (!/instead/i.test(between)) last.value = value;
      if (unit !== '') last.unit = unit;
      continue;
    }
    const words = between.toLowerCase().match(/\p{L}+/gu) ?? [];
    found.push({ words: words.filter((one) => !joining.has(one)).slice(-3), value, unit });
  }
  return found;
}

const names = (knob: TrialKnob, words: readonly string[]): boolean => {
  const own = knob.name.toLowerCase().split(' ');
  return words.some((word) => word.length > 2 && own.includes(word));
};

/**
 * What was said to be changed, put over the knobs that a script had: by a word of its name, else, where no word was said, by its unit
 * when only one knob has that. What has a name that no knob has is a knob of its own; a bare number that nobody can place is not guessed.
 */
export function withSaid(knobs: readonly TrialKnob[], said: string): TrialKnob[] {
  const mine = knobs.map((knob) => ({ ...knob }));
  for (const { words, value, unit } of saidValues(said)) {
    const fits = mine.filter((knob) => unit === '' || knob.unit === unit);
    const named = fits.filter((knob) => names(knob, words));
    const alone = words.length === 0 && unit !== '' ? fits : [];
    const target = named[0] ?? (alone.length === 1 ? alone[0] : undefined);
    if (target) target.value = value;
    else if (words.length > 0) mine.push({ name: words.join(' '), value, unit });
  }
  return mine;
}
