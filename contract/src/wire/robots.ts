import Joi from 'joi';
import type { Hand } from '@vigilum/core/formats';
import { facings, type Reading } from '@vigilum/core/sensing';
import { methodNames } from '@vigilum/core/threshold';
import {
  byField,
  count,
  moment,
  nameWords,
  rowId,
  samples,
  slug,
  socketName,
  whole,
  within,
  words,
  wordsOrNone,
} from '../basics.ts';
import { courseSchema } from '../files/course.ts';
import { buildSchema, kitSchema } from '../files/kit.ts';
import { MOST_IMPORTED } from '../limits.ts';
import { list, maybe, more, oneOf, optional, shape, type RouteShapes, type Typed } from '../shape.ts';
import { quickLooks, recording, storedSet, storedSetOf, storedThreshold } from './evidence.ts';
import { driveFit, robotTrial, robotTrials, storedRobotTrial } from './robotTrials.ts';
import { cupboardName } from './setup.ts';
import { flag, id, ids, kindOfSensor, named, number, text } from './shared.ts';

export const room = shape({ surfaces: list(text), course: courseSchema });
/** What lies around a stand-in robot: surfaces that its sensor can be put over, and the mat it stands on. */
export type Room = Typed<typeof room>;

const robotEntry = more(named, {
  kit: kitSchema,
  build: buildSchema,
  team: maybe(text),
  standIn: flag,
  /** Where it is kept, in the school's own words; empty where nobody has said. */
  cupboard: text,
  /** Put away, such as for repair: no class is given it. */
  archived: flag,
});
/** A robot as the list shows it. */
export type RobotEntry = Typed<typeof robotEntry>;
const wireCheck = shape({
  socket: text,
  kind: kindOfSensor,
  reacts: flag,
  says: text,
  driftPerS: maybe(number),
  at: moment,
});
/** The newest check of one socket and kind. */
export type WireCheck = Typed<typeof wireCheck>;
const robotDetail = more(robotEntry, {
  /** Goes up with every change of name or build. */
  revision: count,
  checks: list(wireCheck),
  room: maybe(room),
  now: moment,
});
export type RobotDetail = Typed<typeof robotDetail>;
const robotReadings = shape({ sets: list(storedSet), recordings: list(recording).max(10), now: moment });
/** Everything read off one robot. */
export type RobotReadings = Typed<typeof robotReadings>;
const robotThreshold = shape({
  socket: text,
  value: number,
  method: text,
  compare: text,
  leave: maybe(number),
  reason: text,
  at: moment,
});
export type RobotThreshold = Typed<typeof robotThreshold>;

/** Most robots made at once. */
const robotCount = whole(1, 40);
const newRobot = shape({
  name: nameWords(80),
  kit: Joi.string().max(40),
  standIn: flag,
  cupboard: optional(cupboardName),
  /** So many at once, each called by the name and a number. */
  count: optional(robotCount),
});
export type NewRobot = Typed<typeof newRobot>;
const robotChange = shape({
  /** The revision that a build was changed from; where it is not the newest, nothing is changed. */
  revision: optional(rowId),
  name: optional(nameWords(80)),
  build: optional(buildSchema),
  cupboard: optional(cupboardName),
  archived: optional(flag),
}).min(1);
export type RobotChange = Typed<typeof robotChange>;

const reading = maybe(within(-100_000, 100_000));
const newCheck = shape({
  socket: socketName,
  kind: kindOfSensor,
  reacts: flag,
  lowest: reading,
  highest: reading,
  driftPerS: optional(reading),
  says: optional(wordsOrNone(300)),
});
export type NewCheck = Typed<typeof newCheck>;
const fittingChange = shape({
  socket: optional(socketName),
  heightMm: optional(within(1, 200)),
  mode: optional(kindOfSensor),
  facing: optional(oneOf(...facings)),
}).min(1);
export type FittingChange = Typed<typeof fittingChange>;
const newFitting = shape({ socket: socketName, sensorId: slug(), mode: kindOfSensor });
/** A part that is plugged in: which, where, and set to what. */
export type NewFitting = Typed<typeof newFitting>;

const whose = shape({ team: rowId, lesson: slug(60) });
/** The team and lesson that a robot reads for; where it is not said, the hour in which its team is. */
export type Whose = Typed<typeof whose>;
const setFields = {
  socket: socketName,
  kind: kindOfSensor,
  surface: words(60),
  truth: optional(reading),
  lightNote: optional(wordsOrNone(120)),
};
const newSet = shape({ ...setFields, values: samples(500), whose: optional(whose) });
export type NewSet = Typed<typeof newSet>;
const newSets = shape({
  whose: optional(whose),
  sets: list(shape({ ...setFields, values: samples(MOST_IMPORTED) }))
    .min(1)
    .max(200),
});
const newRecording = shape({
  socket: socketName,
  kind: kindOfSensor,
  purpose: oneOf('sweep', 'touch'),
  periodMs: within(1, 10_000),
  values: samples<Reading>(20_000),
  whose: optional(whose),
});
export type NewRecording = Typed<typeof newRecording>;
const newQuickLooks = shape({
  socket: socketName,
  surface: words(60),
  values: samples<Reading>(50),
  whose: optional(whose),
});
export type NewQuickLooks = Typed<typeof newQuickLooks>;

const level = within(-100_000, 100_000);
const onlyFor = (method: string) => ({
  is: method,
  then: Joi.required(),
  otherwise: Joi.forbidden(),
});
const newThreshold = shape({
  socket: socketName,
  value: level,
  method: oneOf(...methodNames, 'own choice', 'stop gap'),
  leave: optional(level.when('method', onlyFor('two levels'))),
  reason: optional(wordsOrNone(200)),
  setIds: optional(
    Joi.array<[number, number]>()
      .items(rowId)
      .length(2)
      .unique()
      .when('method', { is: 'stop gap', then: Joi.forbidden(), otherwise: Joi.required() }),
  ),
  whose: optional(whose),
});
export type NewThreshold = Typed<typeof newThreshold>;
const braking = shape({ braking: maybe(driveFit) });
export type Braking = Typed<typeof braking>;

const mm = within(-20_000, 20_000).required();
const hand = byField('put', {
  over: { surface: words(60).required() },
  air: {},
  paper: {},
  press: {},
  release: {},
  at: { xMm: mm, yMm: mm, bearingDeg: within(-3600, 3600).required() },
  drag: { toXMm: mm, toYMm: mm, seconds: within(0.01, 120).required() },
  turn: { deg: within(-3600, 3600).required() },
  front: { mm: within(0, 10_000).allow(null).required() },
  beacon: { deg: within(-180, 180).allow(null).required() },
  room: { light: within(0, 100).required() },
  height: { mm: within(0, 200).required() },
}) as Joi.AlternativesSchema<Hand>;

const made = more(id, { names: list(text) });

export const robotRoutes = {
  'GET /robots': { reply: shape({ robots: list(robotEntry) }) },
  'POST /robots': { body: newRobot, reply: made },
  'GET /robots/:id': { reply: robotDetail },
  'PATCH /robots/:id': { body: robotChange, reply: null },
  'DELETE /robots/:id': { reply: null },
  'POST /robots/:id/restoration': { reply: null },
  /** Robots built as this one, called as it is with the next free numbers. */
  'POST /robots/:id/copies': { body: shape({ count: robotCount }), reply: made },
  'PATCH /robots/:id/fittings/:socket': { body: fittingChange, reply: buildSchema },
  'POST /robots/:id/fittings': { body: newFitting, reply: buildSchema },
  'POST /robots/:id/wire-checks': { body: newCheck, reply: more(id, { at: moment }) },
  'POST /robots/:id/hand': { body: hand, reply: null },
  'POST /robots/:id/lines': {
    body: shape({ lines: list(Joi.string().max(400).allow('')).min(1).max(2000) }),
    reply: shape({ readings: count, refused: count, firstRefused: maybe(text) }),
  },
  'PUT /robots/:id/braking': { body: braking, reply: braking },
  'GET /robots/:id/trials': { reply: robotTrials },
  'POST /robots/:id/trials': { body: robotTrial, reply: more(id, { trial: storedRobotTrial }) },
  'DELETE /robot-trials/:id': { reply: null },
  'POST /robot-trials/:id/restoration': { reply: null },
  'GET /robots/:id/readings': { reply: robotReadings },
  'POST /robots/:id/sample-sets': { body: newSet, reply: more(id, { set: storedSet }) },
  /** A whole set, where pages were given a sample of it. */
  'GET /sample-sets/:id': { reply: storedSetOf(MOST_IMPORTED) },
  'DELETE /sample-sets/:id': { reply: null },
  'POST /sample-sets/:id/restoration': { reply: null },
  'POST /robots/:id/imports': { body: newSets, reply: ids },
  'POST /robots/:id/recordings': { body: newRecording, reply: more(id, { recording }) },
  'GET /recordings/:id': { reply: recording },
  'DELETE /recordings/:id': { reply: null },
  'POST /recordings/:id/restoration': { reply: null },
  'POST /robots/:id/quick-looks': { body: newQuickLooks, reply: more(id, { looks: quickLooks }) },
  'GET /robots/:id/thresholds': { reply: shape({ thresholds: list(robotThreshold) }) },
  'POST /robots/:id/thresholds': { body: newThreshold, reply: more(id, { threshold: storedThreshold }) },
} satisfies RouteShapes;
