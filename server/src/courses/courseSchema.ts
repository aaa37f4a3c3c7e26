import Joi from 'joi';
import type { Course } from '@vigilum/core/course';

const name = (longest: number) => Joi.string().trim().min(1).max(longest);
export const courseId = Joi.string().pattern(/^[a-z0-9-]{1,40}$/, 'lower-case letters, digits and dashes');
const within = (least: number, most: number) => Joi.number().min(least).max(most);
const place = within(-1000, 10_000).required();
const size = within(1, 10_000).required();
const bearing = within(-3600, 3600);
const share = within(0, 1);
const seconds = within(0, 3600);

const point = Joi.object({ xMm: place, yMm: place });
const surface = Joi.object({
  name: name(60).required(),
  reflectance: share.required(),
  colour: Joi.array().ordered(share.required(), share.required(), share.required()).max(3),
});
const stays = Joi.array()
  .items(Joi.object({ fromS: seconds.required(), toS: seconds.allow(null).required() }))
  .max(50);

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
  rectangle: { corner: point.required(), widthMm: size, heightMm: size },
  disc: { centre: point.required(), radiusMm: size },
};
const zones = {
  disc: { centre: point.required(), radiusMm: size },
  rectangle: { corner: point.required(), widthMm: size, heightMm: size },
};

/** One of several shapes, told apart by their `kind`; what they share comes first. */
const oneOf = (shapes: Record<string, Joi.SchemaMap>, shared: Joi.SchemaMap) =>
  Joi.alternatives().conditional(Joi.ref('.kind'), {
    switch: Object.entries(shapes).map(([kind, fields]) => ({
      is: kind,
      then: Joi.object({ kind: Joi.valid(kind).required(), ...shared, ...fields }),
    })),
    otherwise: Joi.object({ kind: Joi.valid(...Object.keys(shapes)).required() }).unknown(),
  });

const start = { name: name(16).required(), xMm: place, yMm: place, bearingDeg: bearing.required() };

/** A course as it is stored, edited, and read from a file. docs/schemas/course.schema.json says the same to the world. */
export const courseSchema = Joi.object<Course>({
  name: name(80).required(),
  widthMm: within(100, 6000).required(),
  heightMm: within(100, 6000).required(),
  base: surface.required(),
  marks: Joi.array()
    .items(oneOf(marks, { surface: surface.required() }))
    .max(200)
    .required(),
  starts: Joi.array().items(Joi.object(start)).min(1).max(12).unique('name').required(),
  landmarks: Joi.array()
    .items(
      Joi.object({
        id: courseId.required(),
        name: name(80).required(),
        xMm: place,
        yMm: place,
        bearingDeg: bearing.required(),
      }),
    )
    .max(40)
    .unique('id')
    .required(),
  rim: Joi.valid('open', 'wall', 'drop'),
  walls: Joi.array()
    .items(Joi.object({ from: point.required(), to: point.required(), reflectance: share }))
    .max(300),
  boxes: Joi.array()
    .items(
      Joi.object({
        id: courseId.required(),
        name: name(60).required(),
        xMm: place,
        yMm: place,
        widthMm: size,
        depthMm: size,
        turnDeg: bearing,
        round: Joi.boolean(),
        reflectance: share,
        stays,
        moves: Joi.object({
          to: point.required(),
          fromS: seconds.required(),
          speedMmPerS: within(0, 2000).required(),
        }),
      }),
    )
    .max(60)
    .unique('id'),
  zones: Joi.array()
    .items(oneOf(zones, { id: courseId.required(), name: name(60).required() }))
    .max(40)
    .unique('id'),
  tracks: Joi.array()
    .items(
      Joi.object({
        id: courseId.required(),
        name: name(80).required(),
        mark: Joi.number().integer().min(0).max(199).required(),
        side: Joi.valid('left', 'right').required(),
      }),
    )
    .max(20)
    .unique('id'),
  opponent: Joi.object({
    ...start,
    name: name(40).required(),
    radiusMm: within(10, 500).required(),
    does: Joi.valid('stands', 'circles', 'charges').required(),
    speedMmPerS: within(0, 1000).required(),
    gives: share.required(),
  }),
  beacon: point,
  presses: stays,
})
  .custom((course: Course, helpers) => {
    const bad = (course.tracks ?? []).find(
      ({ mark }) => !['stripe', 'path', 'arc'].includes(course.marks[mark]?.kind ?? ''),
    );
    return bad
      ? helpers.message({ custom: `the track “${bad.name}” must follow a stripe, path or arc of the marks` })
      : course;
  })
  .label('the course');
