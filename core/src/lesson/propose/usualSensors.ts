import type { Wanted } from './robotFor.ts';

/** Sensors that several proposals take, under the names that scripts give them. */
export const front: Wanted = { name: 'front', kind: 'distance', facing: 'ahead' };
export const nose: Wanted = { name: 'nose', kind: 'touch', facing: 'ahead' };
export const floorEye: Wanted = { name: 'floor', kind: 'light', facing: 'down' };
