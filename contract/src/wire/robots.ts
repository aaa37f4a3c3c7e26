import Joi from 'joi';
import type { Recording, QuickLooks, StoredSet, StoredThreshold } from '@vigilum/core/classroom';
import type { Course } from '@vigilum/core/course';
import type { RobotTrial } from '@vigilum/core/motion';
import type { Hand } from '@vigilum/core/formats';
import {
  facings,
  type DriveFit,
  type Facing,
  type Kit,
  type Sample,
  type Reading,
  type RobotBuild,
  type SensorKind,
} from '@vigilum/core/sensing';
import { methodNames, type MethodName } from '@vigilum/core/threshold';
import {
  byField,
  count,
  samples,
  moment,
  nameWords,
  oneOf,
  slug,
  socketName,
  whole,
  within,
  words,
  wordsOrNone,
} from '../basics.ts';
import { MOST_IMPORTED } from '../limits.ts';
import { courseSchema } from '../files/course.ts';
import { buildSchema, kitSchema } from '../files/kit.ts';
import { quickLooks, recording, storedSet, storedThreshold } from './evidence.ts';
import {
  driveFit,
  robotTrial,
  robotTrialsReply,
  storedRobotTrial,
  type RobotTrials,
  type StoredRobotTrial,
} from './robotTrials.ts';
import { cupboardName } from './setup.ts';
import { id, kindOfSensor, maybe, named, text } from './shared.ts';

/** What lies around a stand-in robot: surfaces that its sensor can be put over, and the mat it stands on. */
export interface Room {
  surfaces: string[];
  course: Course;
}
/** A robot as the list shows it. */
export interface RobotEntry {
  id: number;
  name: string;
  kit: Kit;
  build: RobotBuild;
  team: string | null;
  standIn: boolean;
  /** Where it is kept, in the school's own words; empty where nobody has said. */
  cupboard: string;
  /** Put away, such as for repair: no class is given it. */
  archived: boolean;
}
/** The newest check of one socket and kind. */
export interface WireCheck {
  socket: string;
  kind: SensorKind;
  reacts: boolean;
  says: string;
  driftPerS: number | null;
  at: number;
}
export interface RobotDetail extends RobotEntry {
  /** Goes up with every change of name or build. */
  revision: number;
  checks: WireCheck[];
  room: Room | null;
  now: number;
}
/** Everything read off one robot. */
export interface RobotReadings {
  sets: StoredSet[];
  recordings: Recording[];
  now: number;
}
export interface RobotThreshold {
  socket: string;
  value: number;
  method: string;
  compare: string;
  leave: number | null;
  reason: string;
  at: number;
}
export interface NewRobot {
  name: string;
  kit: string;
  standIn: boolean;
  cupboard?: string;
  /** So many at once, each called by the name and a number. */
  count?: number;
}
export interface RobotChange {
  /** The revision that a build was changed from; where it is not the newest, nothing is changed. */
  revision?: number;
  name?: string;
  build?: RobotBuild;
  cupboard?: string;
  archived?: boolean;
}
export interface NewCheck {
  socket: string;
  kind: SensorKind;
  reacts: boolean;
  lowest: number | null;
  highest: number | null;
  driftPerS?: number | null;
  says?: string;
}
export interface FittingChange {
  socket?: string;
  heightMm?: number;
  mode?: SensorKind;
  facing?: Facing;
}
/** A part that is plugged in: which, where, and set to what. */
export interface NewFitting {
  socket: string;
  sensorId: string;
  mode: SensorKind;
}
export interface NewSet {
  socket: string;
  kind: SensorKind;
  surface: string;
  values: Sample[];
  truth?: number | null;
  lightNote?: string;
  whose?: Whose;
}
/** The team and lesson that a robot reads for; where it is not said, the hour in which its team is. */
export interface Whose {
  team: number;
  lesson: string;
}
export interface NewRecording {
  socket: string;
  kind: SensorKind;
  purpose: 'sweep' | 'touch';
  periodMs: number;
  values: Reading[];
  whose?: Whose;
}
export interface NewQuickLooks {
  socket: string;
  surface: string;
  values: Reading[];
  whose?: Whose;
}
export interface NewThreshold {
  socket: string;
  value: number;
  method: MethodName | 'own choice' | 'stop gap';
  leave?: number;
  reason?: string;
  setIds?: [number, number];
  whose?: Whose;
}
export interface Braking {
  braking: DriveFit | null;
}

export interface RobotRoutes {
  'GET /robots': { reply: { robots: RobotEntry[] } };
  'POST /robots': { body: NewRobot; reply: { id: number; names: string[] } };
  'GET /robots/:id': { reply: RobotDetail };
  'PATCH /robots/:id': { body: RobotChange; reply: undefined };
  'DELETE /robots/:id': { reply: undefined };
  'POST /robots/:id/restoration': { reply: undefined };
  /** Robots built as this one, called as it is with the next free numbers. */
  'POST /robots/:id/copies': { body: { count: number }; reply: { id: number; names: string[] } };
  'PATCH /robots/:id/fittings/:socket': { body: FittingChange; reply: RobotBuild };
  'POST /robots/:id/fittings': { body: NewFitting; reply: RobotBuild };
  'POST /robots/:id/wire-checks': { body: NewCheck; reply: { id: number; at: number } };
  'POST /robots/:id/hand': { body: Hand; reply: undefined };
  'POST /robots/:id/lines': {
    body: { lines: string[] };
    reply: { readings: number; refused: number; firstRefused: string | null };
  };
  'PUT /robots/:id/braking': { body: Braking; reply: Braking };
  'GET /robots/:id/trials': { reply: RobotTrials };
  'POST /robots/:id/trials': { body: RobotTrial; reply: { id: number; trial: StoredRobotTrial } };
  'DELETE /robot-trials/:id': { reply: undefined };
  'POST /robot-trials/:id/restoration': { reply: undefined };
  'GET /robots/:id/readings': { reply: RobotReadings };
  'POST /robots/:id/sample-sets': { body: NewSet; reply: { id: number; set: StoredSet } };
  /** A whole set, where pages were given a sample of it. */
  'GET /sample-sets/:id': { reply: StoredSet };
  'DELETE /sample-sets/:id': { reply: undefined };
  'POST /sample-sets/:id/restoration': { reply: undefined };
  'POST /robots/:id/imports': {
    body: { sets: Omit<NewSet, 'whose'>[]; whose?: Whose };
    reply: { ids: number[] };
  };
  'POST /robots/:id/recordings': { body: NewRecording; reply: { id: number; recording: Recording } };
  'GET /recordings/:id': { reply: Recording };
  'DELETE /recordings/:id': { reply: undefined };
  'POST /recordings/:id/restoration': { reply: undefined };
  'POST /robots/:id/quick-looks': { body: NewQuickLooks; reply: { id: number; looks: QuickLooks } };
  'GET /robots/:id/thresholds': { reply: { thresholds: RobotThreshold[] } };
  'POST /robots/:id/thresholds': { body: NewThreshold; reply: { id: number; threshold: StoredThreshold } };
}

const mm = within(-20_000, 20_000).required();
const reading = within(-100_000, 100_000).allow(null);
const level = within(-100_000, 100_000);
const whose = Joi.object<Whose>({ team: whole(1, 2 ** 31 - 1).required(), lesson: slug(60).required() });
const setFields = {
  socket: socketName.required(),
  kind: kindOfSensor.required(),
  surface: words(60).required(),
  truth: reading,
  lightNote: wordsOrNone(120),
};
/** Most robots made at once. */
const robotCount = whole(1, 40);
export const robotRequests = {
  'POST /robots': Joi.object<NewRobot>({
    name: nameWords(80).required(),
    kit: Joi.string().max(40).required(),
    standIn: Joi.boolean().required(),
    cupboard: cupboardName,
    count: robotCount,
  }),
  'PATCH /robots/:id': Joi.object<RobotChange>({
    revision: whole(1, 2 ** 31 - 1),
    name: nameWords(80),
    build: buildSchema,
    cupboard: cupboardName,
    archived: Joi.boolean(),
  }).min(1),
  'POST /robots/:id/copies': Joi.object<{ count: number }>({ count: robotCount.required() }),
  'PATCH /robots/:id/fittings/:socket': Joi.object<FittingChange>({
    socket: socketName,
    heightMm: within(1, 200),
    mode: kindOfSensor,
    facing: oneOf(...facings),
  }).min(1),
  'POST /robots/:id/fittings': Joi.object<NewFitting>({
    socket: socketName.required(),
    sensorId: slug().required(),
    mode: kindOfSensor.required(),
  }),
  'POST /robots/:id/wire-checks': Joi.object<NewCheck>({
    socket: socketName.required(),
    kind: kindOfSensor.required(),
    reacts: Joi.boolean().required(),
    lowest: reading.required(),
    highest: reading.required(),
    driftPerS: reading,
    says: wordsOrNone(300),
  }),
  'POST /robots/:id/hand': byField('put', {
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
  }) as Joi.Schema as Joi.Schema<Hand>,
  'POST /robots/:id/lines': Joi.object<{ lines: string[] }>({
    lines: Joi.array().items(Joi.string().max(400).allow('')).min(1).max(2000).required(),
  }),
  'PUT /robots/:id/braking': Joi.object<Braking>({
    braking: driveFit.allow(null).required(),
  }),
  'POST /robots/:id/trials': robotTrial,
  'POST /robots/:id/sample-sets': Joi.object<NewSet>({
    ...setFields,
    values: samples(500).required(),
    whose,
  }),
  'POST /robots/:id/imports': Joi.object<{ sets: Omit<NewSet, 'whose'>[]; whose?: Whose }>({
    whose,
    sets: Joi.array()
      .items(Joi.object({ ...setFields, values: samples(MOST_IMPORTED).required() }))
      .min(1)
      .max(200)
      .required(),
  }),
  'POST /robots/:id/recordings': Joi.object<NewRecording>({
    socket: socketName.required(),
    kind: kindOfSensor.required(),
    purpose: oneOf('sweep', 'touch').required(),
    periodMs: within(1, 10_000).required(),
    values: samples(20_000).required(),
    whose,
  }),
  'POST /robots/:id/quick-looks': Joi.object<NewQuickLooks>({
    socket: socketName.required(),
    surface: words(60).required(),
    values: samples(50).required(),
    whose,
  }),
  'POST /robots/:id/thresholds': Joi.object<NewThreshold>({
    socket: socketName.required(),
    value: level.required(),
    method: oneOf(...methodNames, 'own choice', 'stop gap').required(),
    leave: level.when('method', { is: 'two levels', then: Joi.required(), otherwise: Joi.forbidden() }),
    reason: wordsOrNone(200),
    setIds: Joi.array()
      .items(whole(1, 2 ** 31 - 1))
      .length(2)
      .unique()
      .when('method', { is: 'stop gap', then: Joi.forbidden(), otherwise: Joi.required() }),
    whose,
  }),
};

export const room = Joi.object<Room>({
  surfaces: Joi.array().items(text).required(),
  course: courseSchema.required(),
});
const entry = named.keys({
  kit: kitSchema.required(),
  build: buildSchema.required(),
  team: maybe(text),
  standIn: Joi.boolean().required(),
  cupboard: text.required(),
  archived: Joi.boolean().required(),
});
const made = id.keys({ names: Joi.array().items(text).required() });

export const robotReplies = {
  'GET /robots': Joi.object({ robots: Joi.array().items(entry).required() }),
  'POST /robots': made,
  'POST /robots/:id/copies': made,
  'DELETE /robots/:id': null,
  'POST /robots/:id/restoration': null,
  'GET /robots/:id': entry.keys({
    revision: count.required(),
    checks: Joi.array()
      .items(
        Joi.object<WireCheck>({
          socket: text.required(),
          kind: kindOfSensor.required(),
          reacts: Joi.boolean().required(),
          says: text.required(),
          driftPerS: maybe(Joi.number()),
          at: moment.required(),
        }),
      )
      .required(),
    room: maybe(room),
    now: moment.required(),
  }),
  'PATCH /robots/:id': null,
  'POST /robots/:id/fittings': buildSchema,
  'PATCH /robots/:id/fittings/:socket': buildSchema,
  'POST /robots/:id/wire-checks': id.keys({ at: moment.required() }),
  'POST /robots/:id/hand': null,
  'POST /robots/:id/lines': Joi.object({
    readings: count.required(),
    refused: count.required(),
    firstRefused: maybe(text),
  }),
  'PUT /robots/:id/braking': Joi.object({ braking: maybe(driveFit) }),
  'GET /robots/:id/trials': robotTrialsReply,
  'POST /robots/:id/trials': id.keys({ trial: storedRobotTrial.required() }),
  'GET /robots/:id/readings': Joi.object({
    sets: Joi.array().items(storedSet).required(),
    recordings: Joi.array().items(recording).max(10).required(),
    now: moment.required(),
  }),
  'POST /robots/:id/sample-sets': id.keys({ set: storedSet.required() }),
  'GET /sample-sets/:id': storedSet.keys({
    values: samples(MOST_IMPORTED).required(),
    rgb: samples(MOST_IMPORTED),
  }),
  'DELETE /robot-trials/:id': null,
  'POST /robot-trials/:id/restoration': null,
  'DELETE /sample-sets/:id': null,
  'POST /sample-sets/:id/restoration': null,
  'POST /robots/:id/imports': Joi.object({ ids: Joi.array().items(count).required() }),
  'POST /robots/:id/recordings': id.keys({ recording: recording.required() }),
  'GET /recordings/:id': recording,
  'DELETE /recordings/:id': null,
  'POST /recordings/:id/restoration': null,
  'POST /robots/:id/quick-looks': id.keys({ looks: quickLooks.required() }),
  'GET /robots/:id/thresholds': Joi.object({
    thresholds: Joi.array()
      .items(
        Joi.object<RobotThreshold>({
          socket: text.required(),
          value: Joi.number().required(),
          method: text.required(),
          compare: text.required(),
          leave: maybe(Joi.number()),
          reason: text.required(),
          at: moment.required(),
        }),
      )
      .required(),
  }),
  'POST /robots/:id/thresholds': id.keys({ threshold: storedThreshold.required() }),
};
