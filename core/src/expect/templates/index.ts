import type { Expectation, ExpectationKind } from '../sentences.ts';
import { moving } from './moving.ts';
import { own } from './own.ts';
import { places } from './places.ts';
import { showing } from './showing.ts';
import type { Template, Templates } from './template.ts';
import { touching } from './touching.ts';

export { happeningFormula, happeningWords } from './happening.ts';
export type { Template } from './template.ts';

const templates: Templates<ExpectationKind> = { ...moving, ...touching, ...places, ...showing, ...own };

export const templateOf = (expectation: Expectation): Template =>
  templates[expectation.kind] as unknown as Template;
