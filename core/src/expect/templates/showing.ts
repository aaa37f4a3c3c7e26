import { formatNumber } from '../../quantity/index.ts';
import { above, inOrder, inTheEnd } from '../formula.ts';
import { showsSignal } from '../signalNames.ts';
import { about, last } from './telling.ts';
import type { Templates } from './template.ts';

/** What counts as shown while no number is: no count ever comes near it. */
const NOTHING_SHOWN = -1e9;
/** What it shows. */
export const showing: Templates<'shows' | 'shows in order' | 'counts'> = {
  shows: {
    sentence: (e) => `Shows “${e.text}” at the end`,
    formula: (e) => inTheEnd(above(showsSignal(e.text), 0)),
    unit: '',
    scale: () => 1,
    tell: (e, _, margin) => (margin >= 0 ? `shows “${e.text}”` : `does not show “${e.text}” at the end`),
  },
  'shows in order': {
    sentence: (e) => `Shows ${e.texts.map((text) => `“${text}”`).join(', then ')}`,
    formula: (e) => inOrder(...e.texts.map((text) => above(showsSignal(text), 0))),
    unit: '',
    scale: () => 1,
    tell: (e, trace, margin) => {
      if (margin >= 0) return 'all shown, in this order';
      const missing = e.texts.find((text) => !trace.signals[showsSignal(text)]?.values.some((v) => v > 0));
      return missing ? `never shows “${missing}”` : 'shown in another order';
    },
  },
  counts: {
    sentence: (e) =>
      `Counts ${formatNumber(e.count, 0)}${e.tolerance > 0 ? ` ± ${formatNumber(e.tolerance, 0)}` : ''}: the number shown at the end`,
    // Counts are whole: half a count of slack makes “exactly 5” a margin of a half.
    formula: (e) => inTheEnd(about('number shown', e.count, e.tolerance + 0.5)),
    unit: '',
    scale: (e) => e.tolerance + 0.5,
    tell: (_, trace) => {
      const shown = last(trace, 'number shown');
      return Number.isNaN(shown) || shown === NOTHING_SHOWN
        ? 'no number is shown at the end'
        : `shows ${formatNumber(shown)}`;
    },
    why: (_, trace) =>
      trace.signals['number shown'] ? 'no number is shown at the end' : 'nothing was ever shown',
    // Whoever shows no number has not counted: that is broken, not unknown.
    prepare: (trace) => {
      const shown = trace.signals['number shown']?.values;
      const values = shown
        ? shown.map((v) => (Number.isNaN(v) ? NOTHING_SHOWN : v))
        : trace.signals.line && new Float32Array(trace.timesS.length).fill(NOTHING_SHOWN);
      return values
        ? { ...trace, signals: { ...trace.signals, 'number shown': { unit: '', values } } }
        : trace;
    },
  },
};
