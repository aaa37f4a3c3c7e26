import { pastSignal } from '../expect/index.ts';
import type { FloorMeasure, Lesson } from './lesson.ts';

/** How one thing is measured on the floor, and told. Numbers are in `unit`; `perUnit` of the signal's make one. */
export interface MeasureFacts {
  name: string;
  unit: 'mm' | 'cm' | 'deg' | '';
  perUnit: number;
  tool: string;
  /** What is asked before a run: “You say: how far past the edge?” */
  asks: string;
}

export const measureFacts: Record<FloorMeasure, MeasureFacts> = {
  past: {
    name: 'past the edge',
    unit: 'mm',
    perUnit: 1,
    tool: 'ruler',
    asks: 'You say: how far past the edge (minus: short)?',
  },
  gap: {
    name: 'gap ahead',
    unit: 'cm',
    perUnit: 10,
    tool: 'ruler',
    asks: 'You say: what gap is left ahead of it?',
  },
  turn: {
    name: 'turned',
    unit: 'deg',
    perUnit: 1,
    tool: 'protractor',
    asks: 'You say: how far does it turn (left: minus)?',
  },
  count: {
    name: 'count',
    unit: '',
    perUnit: 1,
    tool: 'counting',
    asks: 'You say: what number does it show?',
  },
};

/** What is measured on the floor of a lesson. */
export const measuresOf = ({ floor }: Lesson): FloorMeasure[] =>
  floor.measures ?? (floor.landmark ? ['past'] : []);

/** The signal of the evidence that a measure is compared with. */
export function measureSignal({ floor }: Lesson, measure: FloorMeasure): string {
  switch (measure) {
    case 'past':
      return pastSignal(floor.landmark);
    case 'gap':
      return 'gap ahead';
    case 'turn':
      return 'turned';
    case 'count':
      return 'number shown';
  }
}
