import Joi from 'joi';
import type { Judgement, Proof } from '@vigilum/core/expect';
import { sensorKinds, type SensorKind } from '@vigilum/core/sensing';
import { count, oneOf } from '../basics.ts';

/** A number that may not have come out. */
export const maybe = (schema: Joi.Schema) => schema.allow(null).required();
export const text = Joi.string().allow('');
export const id = Joi.object({ id: count.required() });
export const kindOfSensor = oneOf(...sensorKinds) as Joi.Schema<SensorKind>;
export const named = Joi.object({ id: count.required(), name: text.required() });

export const judgement = Joi.object<Judgement>({
  verdict: oneOf('holds', 'broken', 'cannot tell').required(),
  margin: maybe(Joi.number()),
  unit: text.required(),
  says: text.required(),
});

export const proof = Joi.object<Proof>({
  runs: count.required(),
  passes: count.required(),
  low: Joi.number().min(0).max(1).required(),
  high: Joi.number().min(0).max(1).required(),
  bar: Joi.number().required(),
  verdict: oneOf('proved', 'shaky', 'fails', 'cannot tell').required(),
  each: Joi.array()
    .items(
      Joi.object({
        passes: count.required(),
        unknown: count.required(),
        worstMargin: maybe(Joi.number()),
        unit: text.required(),
        worstSays: text.required(),
      }),
    )
    .required(),
  worstSeed: maybe(Joi.number().integer()),
});
