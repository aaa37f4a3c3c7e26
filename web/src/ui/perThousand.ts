import { formatFixed } from '@vigilum/core/quantity';

/** Misreads in a thousand: whole numbers when many, "<0.1" when next to none. */
export const perThousand = (misreads: number): string =>
  misreads < 0.05 ? '<0.1' : misreads < 10 ? formatFixed(misreads, 1) : formatFixed(misreads, 0);
