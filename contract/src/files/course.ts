import Joi from 'joi';
import type { Course } from '@vigilum/core/course';
import { byField, slug, whole, within, words } from '../basics.ts';
import { oneOf } from '../shape.ts';

const place = within(-1000, 10_000).required();
const size = within(1, 10_000).required();
const bearing = within(-3600, 3600);
const share = within(0, 1);
const seconds = within(0, 3600);

const point = Joi.object({ xMm: place, yMm: place }).meta({ named: 'point' });
const surface = Joi.object({
  name: words(60).required(),
  reflectance: share.required(),
  colour: Joi.array().items(share.required()).length(3),
}).meta({ named: 'surface' });
const stays = Joi.array()
  .items(Joi.object({ fromS: seconds.required(), toS: seconds.allow(null).required() }))
  .max(50);

const disc = { centre: point.required(), radiusMm: size };
const rectangle = { corner: point.required(), widthMm: size, heightMm: size };
const marks = {
  stripe: { from: point.required(), to: point.required(), widthMm: size },
  path: { points: Joi.array().items(point).min(2).max(500).required(), widthMm: size },
  arc: {
    centre: point.required(),
    radiusMm: size,
    fromDeg: bearing.required(),
    toDeg: bearing.required(),
    widthMm: size,
  },
  rectangle,
  disc,
};
const start = { name: words(16).required(), xMm: place, yMm: place, bearingDeg: bearing.required() };

/** The shape of a course as it is stored, edited, and read from a file. What its parts ask of each other is `courseFaults`. */
export const courseSchema = Joi.object<Course>({
  name: words(80).required(),
  widthMm: within(100, 6000).required(),
  heightMm: within(100, 6000).required(),
  base: surface.required(),
  marks: Joi.array()
    .items(byField('kind', marks, { surface: surface.required() }))
    .max(200)
    .required(),
  starts: Joi.array().items(Joi.object(start)).min(1).max(12).required(),
  landmarks: Joi.array()
    .items(
      Joi.object({
        id: slug().required(),
        name: words(80).required(),
        xMm: place,
        yMm: place,
        bearingDeg: bearing.required(),
      }),
    )
    .max(40)
    .required(),
  rim: oneOf('open', 'wall', 'drop'),
  walls: Joi.array()
    .items(Joi.object({ from: point.required(), to: point.required(), reflectance: share }))
    .max(300),
  boxes: Joi.array()
    .items(
      Joi.object({
        id: slug().required(),
        name: words(60).required(),
        xMm: place,
        yMm: place,
        widthMm: size,
        depthMm: size,
        turnDeg: bearing,
        round: Joi.boolean(),
        reflectance: share,
        light: Joi.boolean(),
        stays,
        moves: Joi.object({
          to: point.required(),
          fromS: seconds.required(),
          speedMmPerS: within(0, 2000).required(),
        }),
      }),
    )
    .max(60),
  zones: Joi.array()
    .items(byField('kind', { disc, rectangle }, { id: slug().required(), name: words(60).required() }))
    .max(40),
  tracks: Joi.array()
    .items(
      Joi.object({
        id: slug().required(),
        name: words(80).required(),
        mark: whole(0, 199).required(),
        side: oneOf('left', 'right').required(),
      }),
    )
    .max(20),
  opponent: Joi.object({
    ...start,
    name: words(40).required(),
    radiusMm: within(10, 500).required(),
    does: oneOf('stands', 'circles', 'charges').required(),
    speedMmPerS: within(0, 1000).required(),
    gives: share.required(),
  }),
  beacon: point,
  presses: stays,
})
  .label('the course')
  .meta({ named: 'course' });
