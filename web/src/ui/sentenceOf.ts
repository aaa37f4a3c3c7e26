import { ApiProblem } from '@vigilum/contract/client';
import { TOLD } from './told.ts';

/** The sentence to show for anything that was thrown. */
export const sentenceOf = (error: unknown): string =>
  error instanceof ApiProblem || (error instanceof Error && error.name === TOLD)
    ? error.message
    : 'Something went wrong on this page. Reload it; what was saved is safe.';
