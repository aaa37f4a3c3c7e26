import Joi from 'joi';
import { standings, type ClassReport } from '@vigilum/core/year';
import { oneOf } from '../shape.ts';

const text = Joi.string().allow('');
const whole = Joi.number().integer().min(0);
const at = Joi.number().allow(null).required();
const share = Joi.number().min(0).max(1).required();

/** The shape of a class’s report, as it is read and as it is a file. Times in ms since the epoch. */
export const reportSchema = Joi.object<ClassReport>({
  format: oneOf('vigilum-report').required(),
  version: oneOf(1).required(),
  class: Joi.object({ id: whole.required(), name: text.required(), school: text.required() }).required(),
  span: Joi.object({
    name: text.required(),
    from: Joi.number().required(),
    to: Joi.number().required(),
  }).required(),
  madeAt: Joi.number().required(),
  skills: Joi.array()
    .items(Joi.object({ id: text.required(), name: text.required(), shows: text.required() }))
    .required(),
  teams: Joi.array()
    .items(
      Joi.object({
        id: whole.required(),
        name: text.required(),
        members: Joi.array().items(text).required(),
        skills: Joi.array()
          .items(
            Joi.object({
              skill: text.required(),
              standing: oneOf(...standings).required(),
              lastAt: at,
              reason: text.allow(null).required(),
            }),
          )
          .required(),
        lessons: Joi.array()
          .items(
            Joi.object({
              slug: text.required(),
              title: text.required(),
              at,
              proof: Joi.object({
                passes: whole.required(),
                runs: whole.required(),
                verdict: text.required(),
              })
                .allow(null)
                .required(),
              floor: Joi.object({ kept: whole.required(), of: whole.required() }).required(),
              predictions: Joi.object({ right: whole.required(), of: whole.required() }).required(),
              wrote: Joi.array().items(text).required(),
            }),
          )
          .required(),
      }),
    )
    .required(),
  lessons: Joi.array()
    .items(
      Joi.object({
        slug: text.required(),
        title: text.required(),
        at,
        teams: whole.required(),
        proved: whole.required(),
        runs: Joi.object({ passes: whole.required(), of: whole.required(), low: share, high: share })
          .allow(null)
          .required(),
      }),
    )
    .required(),
  growth: Joi.array()
    .items(Joi.object({ at: Joi.number().required(), seen: whole.required(), shown: whole.required() }))
    .required(),
  predictions: Joi.object({ right: whole.required(), of: whole.required() }).required(),
});
