import { countOf, formatNumber } from '../../quantity/index.ts';
import { TOUCH_MM } from '../amongSolids.ts';
import { above, always, inTheEnd } from '../formula.ts';
import { firstBelow, last, least, mm } from './telling.ts';
import type { Templates } from './template.ts';

/** What it touches, keeps clear of, and falls over. */
export const touching: Templates<
  'never touches' | 'keeps clear' | 'never over the edge' | 'bumps' | 'backs off after bumps'
> = {
  'never touches': {
    sentence: () => 'Never touches a wall or a box',
    formula: () => always(above('room', TOUCH_MM)),
    unit: 'mm',
    scale: () => 50,
    tell: (_, trace, margin) => {
      const at = margin < 0 ? firstBelow(trace, 'room', TOUCH_MM) : null;
      return at === null
        ? `never nearer than ${formatNumber(least(trace, 'room'), 0)} mm`
        : `touches at ${formatNumber(at)} s`;
    },
  },
  'keeps clear': {
    sentence: (e) => `Keeps ${mm(e.roomMm)} clear of walls and boxes`,
    formula: (e) => always(above('room', e.roomMm)),
    unit: 'mm',
    scale: (e) => e.roomMm,
    tell: (_, trace) => `never nearer than ${formatNumber(least(trace, 'room'), 0)} mm`,
  },
  'never over the edge': {
    sentence: () => 'Never goes over the edge',
    formula: () => always(above('edge room', 0)),
    unit: 'mm',
    scale: () => 50,
    tell: (_, trace, margin) => {
      const at = margin < 0 ? firstBelow(trace, 'edge room', 0) : null;
      return at === null
        ? `a wheel came within ${formatNumber(least(trace, 'edge room'), 0)} mm of the edge`
        : `goes over the edge at ${formatNumber(at)} s`;
    },
  },
  bumps: {
    sentence: (e) =>
      `Bumps into something at least ${formatNumber(e.atLeast, 0)} ${e.atLeast === 1 ? 'time' : 'times'}`,
    formula: (e) => inTheEnd(above('bumps', e.atLeast - 0.5)),
    unit: '',
    scale: (e) => e.atLeast,
    tell: (_, trace) => countOf(Math.round(last(trace, 'bumps')), 'bump'),
  },
  'backs off after bumps': {
    sentence: (e) => `Reverses at least ${mm(e.atLeastMm)} after every bump`,
    formula: (e) => inTheEnd(above('backs off', e.atLeastMm)),
    unit: 'mm',
    scale: (e) => e.atLeastMm,
    tell: (_, trace) => `the shortest way back was ${formatNumber(last(trace, 'backs off'), 0)} mm`,
    why: () => 'it never bumped into anything early enough to tell',
  },
};
