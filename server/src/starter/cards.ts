import type { Surface } from '@vigilum/core/course';

/** Coloured cards that lie on every table, to be put under a colour sensor. Invented looks, sRGB 0–1. */
export const cards: Surface[] = [
  { name: 'red card', reflectance: 0.42, colour: [0.7, 0.17, 0.16] },
  { name: 'green card', reflectance: 0.34, colour: [0.16, 0.48, 0.25] },
  { name: 'blue card', reflectance: 0.3, colour: [0.13, 0.29, 0.6] },
  { name: 'yellow card', reflectance: 0.71, colour: [0.92, 0.78, 0.22] },
  { name: 'orange card', reflectance: 0.55, colour: [0.88, 0.47, 0.15] },
];
