import { formatNumber } from '../../quantity/index.ts';
import { TOUCH_MM } from '../amongSolids.ts';
import { above, all, always, below, eventually, forShare, inOrder, inTheEnd } from '../formula.ts';
import { goesOnSignal, inSignal, nearSignal, offSignal, opponentInSignal } from '../signalNames.ts';
import { last, least, mm, nameOf, ordinal } from './telling.ts';
import type { Templates } from './template.ts';

/** Where it goes, and what it waits for or pushes there. */
export const places: Templates<'stays on track' | 'visits' | 'ends in' | 'waits for' | 'pushes out'> = {
  'stays on track': {
    sentence: (e, course) =>
      `Stays within ${mm(e.withinMm)} of the ${nameOf(course.tracks, e.track)} for ${formatNumber(100 * e.share, 0)} % of the run`,
    formula: (e) => forShare(e.share, below(offSignal(e.track), e.withinMm)),
    unit: 'mm',
    scale: (e) => e.withinMm,
    tell: (e, _, margin) =>
      `${formatNumber(e.withinMm - margin, 0)} mm off for ${formatNumber(100 * e.share, 0)} % of the run`,
  },
  visits: {
    sentence: (e, course) => `Visits ${e.zones.map((zone) => nameOf(course.zones, zone)).join(', then ')}`,
    formula: (e) => inOrder(...e.zones.map((zone) => above(inSignal(zone), 0))),
    unit: 'mm',
    scale: () => 60,
    tell: (e, trace, margin) => {
      if (margin >= 0) return 'all visited, in this order';
      const missed = e.zones.findIndex((zone) => !trace.signals[inSignal(zone)]?.values.some((v) => v > 0));
      if (missed < 0) return 'visited in another order';
      return e.zones.length === 1 ? 'never came there' : `never came to the ${ordinal(missed + 1)} of them`;
    },
  },
  'ends in': {
    sentence: (e, course) => `Ends in the ${nameOf(course.zones, e.zone)}`,
    formula: (e) => inTheEnd(above(inSignal(e.zone), 0)),
    unit: 'mm',
    scale: () => 60,
    tell: (e, trace) => {
      const deep = last(trace, inSignal(e.zone));
      return deep >= 0
        ? `${formatNumber(deep, 0)} mm inside`
        : `${formatNumber(-deep, 0)} mm outside at the end`;
    },
  },
  'waits for': {
    sentence: (e, course) =>
      `Waits while the ${nameOf(course.boxes, e.box)} is there and goes on within ${formatNumber(e.withinS)} s after`,
    formula: (e) =>
      all(always(above(nearSignal(e.box), TOUCH_MM)), inTheEnd(below(goesOnSignal(e.box), e.withinS))),
    unit: '',
    scale: (e) => e.withinS,
    tell: (e, trace, margin) => {
      if (margin < 0 && least(trace, nearSignal(e.box)) < TOUCH_MM) return 'ran into it';
      const on = last(trace, goesOnSignal(e.box));
      if (on > 50_000) return 'never went on';
      return `went on ${formatNumber(on)} s after it had left${margin < 0 ? ', too late' : ''}`;
    },
    why: (_, trace) => (trace.signals.speed ? 'the run ended before it had left' : undefined),
  },
  'pushes out': {
    sentence: (e, course) => `Pushes the other robot out of the ${nameOf(course.zones, e.zone)}`,
    formula: (e) => eventually(below(opponentInSignal(e.zone), 0)),
    unit: 'mm',
    scale: () => 100,
    tell: (e, trace, margin) =>
      margin >= 0
        ? 'it is out'
        : `it stayed ${formatNumber(least(trace, opponentInSignal(e.zone)), 0)} mm inside`,
  },
};
