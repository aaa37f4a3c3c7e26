import { pastSignal } from '../expect/index.ts';
import type { FloorMeasure, Lesson } from './lesson.ts';

/** How one thing is measured on the floor, and told. Numbers are in `unit`; `perUnit` of the signal's make one. */
export interface MeasureFacts {
  name: string;
  unit: 'mm' | 'cm' | 'deg' | '';
  perUnit: number;
  tool: string;
  /** What is asked before a run: “How far past the edge will it stop?” */
  asks: string;
}

export const measureFacts: Record<FloorMeasure, MeasureFacts> = {
  past: {
    name: 'past the edge',
    unit: 'mm',
    perUnit: 1,
    tool: 'ruler',
    asks: 'How far past the edge will it stop? Minus is short of it.',
  },
  gap: {
    name: 'gap ahead',
    unit: 'cm',
    perUnit: 10,
    tool: 'ruler',
    asks: 'What gap will be left ahead of it?',
  },
  turn: {
    name: 'turned',
    unit: 'deg',
    perUnit: 1,
    tool: 'protractor',
    asks: 'How far will it have turned? Right counts up, left down.',
  },
  count: { name: 'count', unit: '', perUnit: 1, tool: 'counting', asks: 'What number will it show?' },
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
