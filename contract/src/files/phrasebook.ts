import Joi from 'joi';
import { PHRASEBOOK_LIMIT, syntaxes, type Phrasebook } from '@vigilum/core/phrasebook';
import { words } from '../basics.ts';
import { oneOf } from '../shape.ts';

/** A phrasebook as it is stored, edited, and read from a file. */
export const phrasebookSchema = Joi.object<Phrasebook>({
  name: words(60).required(),
  syntax: oneOf(...syntaxes).required(),
  declares: Joi.array().items(words(PHRASEBOOK_LIMIT.pattern)).max(30).required(),
  phrases: Joi.array()
    .items(
      Joi.object({
        pattern: words(PHRASEBOOK_LIMIT.pattern).required(),
        says: words(PHRASEBOOK_LIMIT.says).required(),
      }),
    )
    .max(PHRASEBOOK_LIMIT.phrases)
    .required(),
});
