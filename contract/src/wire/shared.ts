import Joi from 'joi';
import type { Judgement, Proof } from '@vigilum/core/expect';
import { sensorKinds } from '@vigilum/core/sensing';
import { count } from '../basics.ts';
import { list, maybe, oneOf, shape, shapeOf } from '../shape.ts';

export const text = Joi.string().allow('');
export const flag = Joi.boolean();
export const number = Joi.number();
export const id = shape({ id: count });
export const ids = shape({ ids: list(count) });
export const kindOfSensor = oneOf(...sensorKinds);
export const named = shape({ id: count, name: text });

export const judgement = shapeOf<Judgement>()({
  verdict: oneOf('holds', 'broken', 'cannot tell'),
  margin: maybe(number),
  unit: text,
  says: text,
});

const share = number.min(0).max(1);
export const proof = shapeOf<Proof>()({
  runs: count,
  passes: count,
  low: share,
  high: share,
  bar: number,
  verdict: oneOf('proved', 'shaky', 'fails', 'cannot tell'),
  each: list(
    shape({
      passes: count,
      unknown: count,
      worstMargin: maybe(number),
      unit: text,
      worstSays: text,
    }),
  ),
  worstSeed: maybe(number.integer()),
});
