import { formatNumber } from '../../quantity/index.ts';
import type { Trace } from '../../sim/index.ts';
import { above, always, any, eventually, implies, signalsOf } from '../formula.ts';
import { readFormula } from '../formulaText.ts';
import { robustness } from '../robustness/index.ts';
import { happeningFormula, happeningWords, withMotion } from './happening.ts';
import type { Of, Templates } from './template.ts';

/** The unit that all signals of a person's own formula share; none when they differ, for a margin is then of either. */
function unitOfFormula({ formula }: Of<'formula'>, { signals }: Trace): string {
  const read = readFormula(formula);
  const names = read.ok ? signalsOf(read.value) : [];
  const found = new Set(names.map((name) => (Object.hasOwn(signals, name) ? signals[name]!.unit : '')));
  return found.size === 1 ? [...found][0]! : '';
}

/** What a person puts together: one thing soon after another, or a formula. */
export const own: Templates<'soon after' | 'formula'> = {
  'soon after': {
    sentence: (e, course) =>
      `Within ${formatNumber(e.seconds)} s after ${happeningWords(e.when, course)}, ${happeningWords(e.then, course)}`,
    // Where the record ends before the time is over, what is still open is not asked once it was asked before.
    formula: (e) =>
      always(
        implies(
          happeningFormula(e.when),
          any(eventually(happeningFormula(e.then), [0, e.seconds]), above('ending', 0)),
        ),
      ),
    prepare: (trace, { seconds, when }) => {
      const end = trace.timesS.at(-1)!;
      const moving = withMotion(trace);
      const whole = eventually(happeningFormula(when), [0, Math.max(0, end - seconds)]);
      const excused = !trace.lasts && end >= seconds && robustness(whole, moving).surely > 0;
      const values = new Float32Array(trace.timesS.length).fill(-1000);
      if (excused)
        values.fill(
          1000,
          trace.timesS.findIndex((t) => t > end - seconds),
        );
      return { ...moving, signals: { ...moving.signals, ending: { unit: '', values } } };
    },
    unit: '',
    scale: () => 30,
    tell: (_, __, margin) => (margin >= 0 ? 'each time' : 'not each time'),
  },
  formula: {
    sentence: (e) => e.says,
    formula: (e) => {
      const read = readFormula(e.formula);
      return read.ok ? read.value : null;
    },
    unit: '',
    unitOn: unitOfFormula,
    scale: () => 1,
    tell: (e, trace, margin) =>
      `${margin >= 0 ? 'holds' : 'does not hold'}, by ${formatNumber(Math.abs(margin), 1)} ${unitOfFormula(e, trace)}`.trim(),
  },
};
