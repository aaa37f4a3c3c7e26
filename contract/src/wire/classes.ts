import Joi from 'joi';
import {
  hourActions,
  stageNames,
  type HelpCall,
  type Stage,
  type ThresholdTable,
} from '@vigilum/core/classroom';
import type { Reading, SensorNeed } from '@vigilum/core/sensing';
import { count, moment, rowId, samples, whole, words } from '../basics.ts';
import {
  list,
  maybe,
  more,
  oneOf,
  optional,
  record,
  shape,
  shapeOf,
  type RouteShapes,
  type Typed,
} from '../shape.ts';
import { evidence, storedSet } from './evidence.ts';
import { room } from './robots.ts';
import { classEntry } from './setup.ts';
import { flag, id, kindOfSensor, named, number, text } from './shared.ts';

const stageName = oneOf(...stageNames);
const grade = oneOf('fault', 'risk');
const stage = shapeOf<Stage>()({
  stage: stageName,
  state: oneOf('done', 'now', 'risk', 'fault', 'none'),
  figure: text,
  says: text,
  mend: text,
});
const boardTeam = shape({
  id: count,
  name: text,
  robot: text,
  stages: list(stage).length(stageNames.length),
  current: stageName,
  help: maybe(
    shapeOf<HelpCall>()({ stage: stageName, grade, says: text, mend: text, quietMin: maybe(number) }),
  ),
  lastAt: maybe(moment),
});
export type BoardTeam = Typed<typeof boardTeam>;

const lessonTitle = shape({ slug: text, title: text });
const hourFields = {
  id: count,
  /** The hour that it goes on from; its own id where it begins anew. */
  first: count,
  startsAt: moment,
  minutes: count,
  beganAt: maybe(moment),
  pausedAt: maybe(moment),
  pausedS: count,
  endedAt: maybe(moment),
  class: more(named, { school: text }),
  lesson: shape({ slug: text, title: text, aim: text }),
};
export const hour = shape(hourFields);
/** A lesson hour of a class. */
export type Hour = Typed<typeof hour>;
const period = shape({
  ...hourFields,
  /** The pages of its teams hold what was done in it; false once the class has begun the lesson anew. */
  current: flag,
  teams: list(boardTeam),
});
export type Period = Typed<typeof period>;
const today = shape({
  now: moment,
  /** The hours that are going on, with their boards. */
  periods: list(period),
  /** What is planned, soonest first, and what was, latest first. */
  next: list(hour),
  past: list(hour),
});
export type Today = Typed<typeof today>;

const teamGoes = shape({
  team: more(named, { class: text }),
  why: oneOf('running', 'left', 'homework', 'nothing'),
  lesson: maybe(text),
  /** The step to open; null for where it left. */
  step: maybe(text),
});
/** Where a team is to go now: into the hour that is going on, on with what it left, or to its homework. */
export type TeamGoes = Typed<typeof teamGoes>;

const olderSet = shape({
  set: storedSet,
  /** Title of the lesson that it was read in; null where the robot was read for itself. */
  lesson: maybe(text),
});
/** Readings of this very robot from before: what may still hold, once five quick looks say so. */
export type OlderSet = Typed<typeof olderSet>;
const workspace = more(evidence, {
  /** Around the stand-in; null for a real robot. */
  room: maybe(room),
  now: moment,
  /** Of the surfaces that the lesson reads and the team has not read in it. */
  older: list(olderSet),
});
/** What a team’s pages work from. */
export type Workspace = Typed<typeof workspace>;
const teamRecordThen = shape({ now: moment, hour, evidence });
/** What a team left in an hour, whatever it does now. */
export type TeamRecordThen = Typed<typeof teamRecordThen>;

const ofClass = { now: moment, school: text, class: text, lesson: lessonTitle };
const classThresholds = shape({
  ...ofClass,
  need: shapeOf<SensorNeed>()({ kind: kindOfSensor, socket: text, name: text }),
  teams: list(count),
  table: shapeOf<ThresholdTable>()({
    unit: text,
    lowName: text,
    highName: text,
    median: maybe(number),
    rows: list(
      shape({
        team: text,
        robot: text,
        low: maybe(number),
        high: maybe(number),
        value: maybe(number),
        leave: maybe(number),
        method: text,
        misreads: maybe(number),
        lightShift: maybe(number),
        apart: maybe(number),
        readAt: maybe(moment),
        remarks: list(shape({ grade, says: text })),
      }),
    ),
  }),
});
/** A class's thresholds side by side. */
export type ClassThresholds = Typed<typeof classThresholds>;
const classNotes = shape({
  ...ofClass,
  steps: list(shape({ id: text, kind: text, title: text, text })),
  teams: list(more(named, { notes: record(text) })),
});
/** What the teams of a class wrote down, by the steps that ask for it. */
export type ClassNotes = Typed<typeof classNotes>;

const newPeriod = shape({
  classId: rowId,
  lesson: words(60),
  minutes: whole(5, 480),
  /** Begins with nothing, though the class had this lesson a little while ago. */
  anew: optional(flag),
  /** When it shall begin; now where it is not said. */
  startsAt: optional(moment),
});
export type NewPeriod = Typed<typeof newPeriod>;
const hourChange = shape({
  action: optional(oneOf(...hourActions)),
  minutes: optional(whole(5, 480)),
  /** When a planned hour shall begin. */
  startsAt: optional(moment),
}).min(1);
export type HourChange = Typed<typeof hourChange>;

export const classRoutes = {
  'GET /today': { reply: today },
  /** The hours that are going on, without their boards: for the clock on every page. */
  'GET /running-hours': { reply: shape({ now: moment, hours: list(hour) }) },
  /** The rows of some teams of a period’s board: `teams` is their ids with commas between. */
  'GET /periods/:id/board': {
    query: shape({ teams: Joi.string() }),
    reply: shape({ now: moment, teams: list(boardTeam) }),
  },
  'GET /periods/:id/thresholds': { reply: classThresholds },
  'GET /periods/:id/notes': { reply: classNotes },
  'GET /periods/:id/teams/:team': { reply: teamRecordThen },
  'POST /periods': { body: newPeriod, reply: id },
  'GET /periods/:id': { reply: shape({ now: moment, period }) },
  'PATCH /periods/:id': { body: hourChange, reply: hour },
  'DELETE /periods/:id': { reply: null },
  'POST /periods/:id/restoration': { reply: null },
  'GET /classes/:id/hours': { reply: shape({ now: moment, class: classEntry, hours: list(hour) }) },
  'GET /teams/:id': { reply: teamGoes },
  'GET /teams/:id/lessons/:slug': { reply: workspace },
  /** Takes over a set from before, where fresh looks say that it still holds. */
  'POST /teams/:id/lessons/:slug/carried': {
    body: shape({ set: rowId, values: samples<Reading>(50) }),
    reply: more(id, { set: storedSet }),
  },
} satisfies RouteShapes;
