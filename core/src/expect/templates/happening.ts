import type { Course } from '../../course/index.ts';
import { formatNumber } from '../../quantity/index.ts';
import { REST_MM_PER_S, type Trace } from '../../sim/index.ts';
import { motionOf } from '../derived.ts';
import { above, below, type Formula } from '../formula.ts';
import type { Happening } from '../sentences.ts';
import { inSignal, pastSignal, thereSignal } from '../signalNames.ts';
import { nameOf } from './telling.ts';

/** It is at rest. */
export const resting = below('motion', REST_MM_PER_S);

/** The trace with how fast the robot moves in any way. */
export function withMotion(trace: Trace): Trace {
  if (trace.signals.motion) return trace;
  const motion = motionOf(trace);
  return motion ? { ...trace, signals: { ...trace.signals, motion } } : trace;
}

/** It moves, or reverses, when it is faster than this, mm/s. */
const MOVES_MM_PER_S = 15;

export function happeningFormula(what: Happening): Formula {
  switch (what.is) {
    case 'pressed':
      return above(what.socket, 0);
    case 'reads':
      return what.op === '<' ? below(what.socket, what.value) : above(what.socket, what.value);
    case 'past':
      return above(pastSignal(what.landmark), 0);
    case 'in zone':
      return above(inSignal(what.zone), 0);
    case 'box there':
      return above(thereSignal(what.box), 0);
    case 'moves':
      return above('speed', MOVES_MM_PER_S);
    case 'reverses':
      return below('speed', -MOVES_MM_PER_S);
    case 'stands':
      return below('motion', MOVES_MM_PER_S);
  }
}

export function happeningWords(what: Happening, course: Course): string {
  switch (what.is) {
    case 'pressed':
      return `${what.socket} is pressed`;
    case 'reads':
      return `${what.socket} reads ${what.op === '<' ? 'less' : 'more'} than ${formatNumber(what.value)}`;
    case 'past':
      return `it has passed the ${nameOf(course.landmarks, what.landmark)}`;
    case 'in zone':
      return `it is in the ${nameOf(course.zones, what.zone)}`;
    case 'box there':
      return `the ${nameOf(course.boxes, what.box)} is there`;
    case 'moves':
      return 'it moves ahead';
    case 'reverses':
      return 'it reverses';
    case 'stands':
      return 'it stands';
  }
}
