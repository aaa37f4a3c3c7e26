import Joi from 'joi';
import {
  hourActions,
  stageNames,
  type HelpCall,
  type HourAction,
  type HourTimes,
  type Stage,
  type StageName,
  type StoredSet,
  type TeamEvidence,
  type ThresholdTable,
} from '@vigilum/core/classroom';
import type { Lesson, LessonStep } from '@vigilum/core/lesson';
import type { Reading, SensorNeed } from '@vigilum/core/sensing';
import type { Room } from './robots.ts';
import { count, moment, oneOf, samples, whole, words } from '../basics.ts';
import { lessonSchema } from '../files/lesson.ts';
import { evidence, storedSet } from './evidence.ts';
import { id, kindOfSensor, maybe, named, text } from './shared.ts';
import { room } from './robots.ts';
import { classEntry, type ClassEntry } from './setup.ts';

export interface BoardTeam {
  id: number;
  name: string;
  robot: string;
  stages: Stage[];
  current: StageName;
  help: HelpCall | null;
  lastAt: number | null;
}
/** A lesson hour of a class. */
export interface Hour extends HourTimes {
  id: number;
  /** The hour that it goes on from; its own id where it begins anew. */
  first: number;
  class: { id: number; name: string; school: string };
  lesson: Pick<Lesson, 'slug' | 'title' | 'aim'>;
}
export interface Period extends Hour {
  /** The pages of its teams hold what was done in it; false once the class has begun the lesson anew. */
  current: boolean;
  teams: BoardTeam[];
}
export interface Today {
  now: number;
  /** The hours that are going on, with their boards. */
  periods: Period[];
  /** What is planned, soonest first, and what was, latest first. */
  next: Hour[];
  past: Hour[];
}
/** Where a team is to go now: into the hour that is going on, on with what it left, or to its homework. */
export interface TeamGoes {
  team: { id: number; name: string; class: string };
  why: 'running' | 'left' | 'homework' | 'nothing';
  lesson: string | null;
  /** The step to open; null for where it left. */
  step: string | null;
}
/** What a team’s pages work from. */
/** Readings of this very robot from before: what may still hold, once five quick looks say so. */
export interface OlderSet {
  set: StoredSet;
  /** Title of the lesson that it was read in; null where the robot was read for itself. */
  lesson: string | null;
}
export interface Workspace extends TeamEvidence {
  /** Of the surfaces that the lesson reads and the team has not read in it. */
  older: OlderSet[];
  /** Around the stand-in; null for a real robot. */
  room: Room | null;
  now: number;
}
interface OfClass {
  now: number;
  school: string;
  class: string;
  lesson: Pick<Lesson, 'slug' | 'title'>;
}
/** What a team left in an hour, whatever it does now. */
export interface TeamRecordThen {
  now: number;
  hour: Hour;
  evidence: TeamEvidence;
}
/** A class's thresholds side by side. */
export interface ClassThresholds extends OfClass {
  need: SensorNeed;
  teams: number[];
  table: ThresholdTable;
}
/** What the teams of a class wrote down, by the steps that ask for it. */
export interface ClassNotes extends OfClass {
  steps: Pick<LessonStep, 'id' | 'kind' | 'title' | 'text'>[];
  teams: { id: number; name: string; notes: Record<string, string> }[];
}
export interface NewPeriod {
  classId: number;
  lesson: string;
  minutes: number;
  /** Begins with nothing, though the class had this lesson a little while ago. */
  anew?: boolean;
  /** When it shall begin; now where it is not said. */
  startsAt?: number;
}
export interface HourChange {
  action?: HourAction;
  minutes?: number;
  /** When a planned hour shall begin. */
  startsAt?: number;
}

export interface ClassRoutes {
  'GET /today': { reply: Today };
  /** The hours that are going on, without their boards: for the clock on every page. */
  'GET /running-hours': { reply: { now: number; hours: Hour[] } };
  /** The rows of some teams of a period’s board: `teams` is their ids with commas between. */
  'GET /periods/:id/board': { query: { teams: string }; reply: { now: number; teams: BoardTeam[] } };
  'GET /periods/:id/thresholds': { reply: ClassThresholds };
  'GET /periods/:id/notes': { reply: ClassNotes };
  'GET /periods/:id/teams/:team': { reply: TeamRecordThen };
  'POST /periods': { body: NewPeriod; reply: { id: number } };
  'GET /periods/:id': { reply: { now: number; period: Period } };
  'PATCH /periods/:id': { body: HourChange; reply: Hour };
  'DELETE /periods/:id': { reply: undefined };
  'POST /periods/:id/restoration': { reply: undefined };
  'GET /classes/:id/hours': { reply: { now: number; class: ClassEntry; hours: Hour[] } };
  'GET /teams/:id': { reply: TeamGoes };
  'GET /teams/:id/lessons/:slug': { reply: Workspace };
  /** Takes over a set from before, where fresh looks say that it still holds. */
  'POST /teams/:id/lessons/:slug/carried': {
    body: { set: number; values: Reading[] };
    reply: { id: number; set: StoredSet };
  };
}

export const classRequests = {
  'POST /periods': Joi.object<NewPeriod>({
    classId: whole(1, 2 ** 31 - 1).required(),
    lesson: words(60).required(),
    minutes: whole(5, 480).required(),
    anew: Joi.boolean(),
    startsAt: moment,
  }),
  'PATCH /periods/:id': Joi.object<HourChange>({
    action: oneOf(...hourActions),
    minutes: whole(5, 480),
    startsAt: moment,
  }).min(1),
  'POST /teams/:id/lessons/:slug/carried': Joi.object<{ set: number; values: Reading[] }>({
    set: whole(1, 2 ** 31 - 1).required(),
    values: samples(50).required(),
  }),
};

const stageName = oneOf(...stageNames);
const stage = Joi.object<Stage>({
  stage: stageName.required(),
  state: oneOf('done', 'now', 'risk', 'fault', 'none').required(),
  figure: text.required(),
  says: text.required(),
  mend: text.required(),
});
const boardTeam = Joi.object<BoardTeam>({
  id: count.required(),
  name: text.required(),
  robot: text.required(),
  stages: Joi.array().items(stage).length(stageNames.length).required(),
  current: stageName.required(),
  help: maybe(
    Joi.object<HelpCall>({
      stage: stageName.required(),
      grade: oneOf('fault', 'risk').required(),
      says: text.required(),
      mend: text.required(),
      quietMin: maybe(Joi.number()),
    }),
  ),
  lastAt: maybe(moment),
});
const ofClass = {
  now: moment.required(),
  school: text.required(),
  class: text.required(),
  lesson: Joi.object({ slug: text.required(), title: text.required() }).required(),
};
/** The fields of an hour. */
export const hourFields = {
  id: count.required(),
  first: count.required(),
  startsAt: moment.required(),
  minutes: count.required(),
  beganAt: maybe(moment),
  pausedAt: maybe(moment),
  pausedS: count.required(),
  endedAt: maybe(moment),
  class: named.keys({ school: text.required() }).required(),
  lesson: Joi.object({ slug: text.required(), title: text.required(), aim: text.required() }).required(),
};
const hour = Joi.object<Hour>(hourFields);
const period = Joi.object<Period>({
  ...hourFields,
  current: Joi.boolean().required(),
  teams: Joi.array().items(boardTeam).required(),
});
const teamIds = Joi.array().items(count).required();

export const classReplies = {
  'GET /running-hours': Joi.object({
    now: moment.required(),
    hours: Joi.array().items(hour).required(),
  }),
  'GET /today': Joi.object<Today>({
    now: moment.required(),
    periods: Joi.array().items(period).required(),
    next: Joi.array().items(hour).required(),
    past: Joi.array().items(hour).required(),
  }),
  'GET /periods/:id': Joi.object({ now: moment.required(), period: period.required() }),
  'GET /periods/:id/teams/:team': Joi.object<TeamRecordThen>({
    now: moment.required(),
    hour: hour.required(),
    evidence: evidence.keys({ lesson: lessonSchema.required() }).required(),
  }),
  'PATCH /periods/:id': hour,
  'DELETE /periods/:id': null,
  'POST /periods/:id/restoration': null,
  'GET /classes/:id/hours': Joi.object({
    now: moment.required(),
    class: classEntry.required(),
    hours: Joi.array().items(hour).required(),
  }),
  'GET /teams/:id': Joi.object<TeamGoes>({
    team: named.keys({ class: text.required() }).required(),
    why: oneOf('running', 'left', 'homework', 'nothing').required(),
    lesson: maybe(text),
    step: maybe(text),
  }),
  'GET /periods/:id/board': Joi.object({
    now: moment.required(),
    teams: Joi.array().items(boardTeam).required(),
  }),
  'GET /periods/:id/thresholds': Joi.object<ClassThresholds>({
    ...ofClass,
    need: Joi.object({
      kind: kindOfSensor.required(),
      socket: text.required(),
      name: text.required(),
    }).required(),
    teams: teamIds,
    table: Joi.object({
      unit: text.required(),
      lowName: text.required(),
      highName: text.required(),
      median: maybe(Joi.number()),
      rows: Joi.array()
        .items(
          Joi.object({
            team: text.required(),
            robot: text.required(),
            low: maybe(Joi.number()),
            high: maybe(Joi.number()),
            value: maybe(Joi.number()),
            leave: maybe(Joi.number()),
            method: text.required(),
            misreads: maybe(Joi.number()),
            lightShift: maybe(Joi.number()),
            apart: maybe(Joi.number()),
            readAt: maybe(moment),
            remarks: Joi.array()
              .items(Joi.object({ grade: oneOf('fault', 'risk').required(), says: text.required() }))
              .required(),
          }),
        )
        .required(),
    }).required(),
  }),
  'GET /periods/:id/notes': Joi.object<ClassNotes>({
    ...ofClass,
    steps: Joi.array()
      .items(
        Joi.object({
          id: text.required(),
          kind: text.required(),
          title: text.required(),
          text: text.required(),
        }),
      )
      .required(),
    teams: Joi.array()
      .items(named.keys({ notes: Joi.object().pattern(Joi.string(), text).required() }))
      .required(),
  }),
  'POST /periods': id,
  'GET /teams/:id/lessons/:slug': evidence.keys({
    room: maybe(room),
    now: moment.required(),
    lesson: lessonSchema.required(),
    older: Joi.array()
      .items(Joi.object({ set: storedSet.required(), lesson: maybe(text) }))
      .required(),
  }),
  'POST /teams/:id/lessons/:slug/carried': id.keys({ set: storedSet.required() }),
};
