import Joi from 'joi';
import { PHRASEBOOK_LIMIT, syntaxes, type Phrasebook } from '@vigilum/core/phrasebook';

/** A phrasebook as it is stored, edited, and read from a file. docs/schemas/phrasebook.schema.json says the same. */
export const phrasebookSchema = Joi.object<Phrasebook>({
  name: Joi.string().trim().min(1).max(60).required(),
  syntax: Joi.valid(...syntaxes).required(),
  declares: Joi.array().items(Joi.string().min(1).max(PHRASEBOOK_LIMIT.pattern)).max(30).required(),
  phrases: Joi.array()
    .items(
      Joi.object({
        pattern: Joi.string().min(1).max(PHRASEBOOK_LIMIT.pattern).required(),
        says: Joi.string().min(1).max(PHRASEBOOK_LIMIT.says).required(),
      }),
    )
    .max(PHRASEBOOK_LIMIT.phrases)
    .required(),
});
