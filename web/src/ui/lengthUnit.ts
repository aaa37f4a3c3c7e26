import { remembered } from './remembered.ts';

export const lengthUnits = ['cm', 'mm', 'in'] as const;
export type LengthUnit = (typeof lengthUnits)[number];

const choice = remembered<LengthUnit>('length unit', lengthUnits, 'cm');

/** The unit that lengths are shown in on this machine. Stored readings keep their own. */
export const useLengthUnit = choice.use;
export const setLengthUnit = choice.set;
