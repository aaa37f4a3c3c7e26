/** A repeatable place across a strip, −0.5 to 0.5, so that equal values lie side by side (golden-ratio steps). */
export const spread = (i: number): number => ((i * 0.618034) % 1) - 0.5;
