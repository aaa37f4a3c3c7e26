import type { Standing } from '@vigilum/core/year';

/** Sign and colour of each standing; the word stands in the title and for screen readers. */
export const standingSigns: Record<Standing, { sign: string; ink: string; word: string }> = {
  'cannot tell': { sign: '·', ink: 'text-ink-2', word: 'not tried' },
  'not yet': { sign: '○', ink: 'text-ink-2', word: 'not yet' },
  'seen once': { sign: '◐', ink: 'text-brass', word: 'seen once' },
  shown: { sign: '✓', ink: 'text-done', word: 'shown' },
  'shown in unkind conditions': { sign: '✓✓', ink: 'text-done', word: 'shown, floor too' },
};
