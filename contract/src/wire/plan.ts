import Joi from 'joi';
import {
  thingKinds,
  wayKinds,
  type Arrangement,
  type Clash,
  type Days,
  type HourChange,
  type MeetingRule,
  type Next,
  type PlanClass,
  type PlacedHour,
  type PlanLesson,
  type Skill,
  type Take,
  type Thing,
  type WayOut,
} from '@vigilum/core/year';
import { amount, count, moment, nameWords, oneOf, slug, whole, words, wordsOrNone } from '../basics.ts';
import { id, kindOfSensor, maybe, named, text } from './shared.ts';
import { ownSkill } from './year.ts';

export interface Term extends Days {
  id: number;
  name: string;
  /** Those that have meetings in it, put away or not. */
  classes: { id: number; name: string }[];
}
export type NewTerm = Omit<Term, 'id' | 'classes'>;
export interface DayOffEntry extends Days {
  id: number;
  name: string;
}
export type NewDayOff = Omit<DayOffEntry, 'id'>;

/** Lessons in an order. */
export interface Series {
  id: number;
  name: string;
  aim: string;
  /** Slugs. */
  lessons: string[];
  /** Came with Vigilum. */
  shipped: boolean;
}
export type NewSeries = Pick<Series, 'name' | 'aim' | 'lessons'>;

/** Something in the cupboard, or a room. `row` is its id where it can be changed; robots are counted by their kits. */
export interface CupboardThing extends Thing {
  row: number | null;
}
export type NewThing = Omit<Thing, 'id'>;
export interface CupboardRobot {
  id: number;
  name: string;
  kit: string;
  cupboard: string;
  away: 'broken' | 'out' | null;
}

export interface MeetingEntry {
  id: number;
  class: number;
  term: number | null;
  startsAt: number;
  minutes: number;
  /** Id of the room as a thing. */
  room: string | null;
  /** Why it does not take place. */
  lost: string | null;
}
/** An hour as the plan knows it. */
export interface PlanHour {
  id: number;
  class: number;
  lesson: { slug: string; title: string };
  startsAt: number;
  minutes: number;
  /** It is planned and has not begun: it can be moved. */
  open: boolean;
  meeting: number | null;
  shared: boolean;
  takes: Take[];
}
/** A lesson as planning sees it, with the kits that can do it. */
export interface PlannableLesson extends PlanLesson {
  kits: string[];
}

/** Everything that the pages of the plan work from. */
export interface YearPlan {
  now: number;
  /** Time zone of the school, as the IANA names it. */
  zone: string;
  /** How long robots are laid out before and cleared away after an hour, min. */
  robotTimes: { beforeMin: number; afterMin: number };
  terms: Term[];
  daysOff: DayOffEntry[];
  things: CupboardThing[];
  robots: CupboardRobot[];
  classes: (PlanClass & { kits: string[] })[];
  meetings: MeetingEntry[];
  hours: PlanHour[];
  lessons: PlannableLesson[];
  /** Skills that teachers added. */
  skills: Skill[];
  series: Series[];
}

export interface PlanSettings {
  zone?: string;
  robotTimes?: { beforeMin: number; afterMin: number };
}
/** When a class is to meet: by a rule over a term, or on days that are named. */
export interface NewMeetings {
  term: number | null;
  rule?: MeetingRule;
  days?: { day: string; at: string; minutes: number }[];
  room: string | null;
}
export interface MadeMeetings {
  ids: number[];
  /** Days of the rule that are off. */
  off: { day: string; name: string }[];
  /** Meetings that were there already at that time. */
  there: number;
}

export type { Arrangement };
export interface Untangling {
  /** Takes it as the plan is now: nothing is changed. */
  ways: WayOut[];
  changes: HourChange[];
  left: Clash[];
}

export interface PlanRoutes {
  'GET /plan': { reply: YearPlan };
  'PATCH /plan': { body: PlanSettings; reply: undefined };
  'POST /terms': { body: NewTerm; reply: { id: number } };
  'PUT /terms/:id': { body: NewTerm; reply: undefined };
  'DELETE /terms/:id': { reply: undefined };
  'POST /terms/:id/restoration': { reply: undefined };
  'POST /days-off': { body: { days: NewDayOff[] }; reply: { ids: number[]; moved: number; over: string[] } };
  'DELETE /days-off/:id': { reply: undefined };
  'POST /days-off/:id/restoration': { reply: undefined };
  'POST /days-off/readings': { body: { text: string }; reply: { days: NewDayOff[]; skipped: string[] } };
  'POST /classes/:id/meetings': { body: NewMeetings; reply: MadeMeetings };
  'PATCH /meetings/:id': {
    body: { day?: string; at?: string; minutes?: number; room?: string | null };
    reply: undefined;
  };
  'DELETE /meetings/:id': { reply: undefined };
  'POST /meetings/:id/restoration': { reply: undefined };
  'PUT /classes/:id/arrangement': { body: Arrangement; reply: { hours: number[] } };
  'POST /things': { body: NewThing; reply: { id: number } };
  'PUT /things/:id': { body: NewThing; reply: undefined };
  'DELETE /things/:id': { reply: undefined };
  'POST /things/:id/restoration': { reply: undefined };
  'PUT /robots/:id/away': { body: { away: CupboardRobot['away'] }; reply: undefined };
  'POST /series': { body: NewSeries; reply: { id: number } };
  'PUT /series/:id': { body: NewSeries; reply: undefined };
  'DELETE /series/:id': { reply: undefined };
  'POST /series/:id/restoration': { reply: undefined };
  'PUT /own-skills/:skill': { body: Omit<Skill, 'id'>; reply: undefined };
  'DELETE /own-skills/:skill': { reply: undefined };
  'POST /own-skills/:skill/restoration': { reply: undefined };
  'POST /plan/untangling': { body: Record<string, never>; reply: Untangling };
  'GET /periods/:id/next': { reply: Next };
}

const day = Joi.string().pattern(/^\d{4}-\d\d-\d\d$/, 'a day as 2026-11-28');
const clock = Joi.string().pattern(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time as 09:50');
const days = { from: day.required(), to: day.required() };
const minutes = whole(5, 480);
const around = whole(0, 480);
const thingId = Joi.string().pattern(/^[a-z0-9-]{1,60}$/, 'the id of a thing');
const newTerm = Joi.object<NewTerm>({ name: nameWords(60).required(), ...days });
const newThing = Joi.object<NewThing>({
  kind: oneOf(...thingKinds.filter((kind) => kind !== 'robots')).required(),
  name: nameWords(80).required(),
  shelf: wordsOrNone(40).required(),
  count: whole(0, 999).required(),
  broken: whole(0, 999).required(),
  out: whole(0, 999).required(),
  beforeMin: around.required(),
  afterMin: around.required(),
});
const newSeries = Joi.object<NewSeries>({
  name: nameWords(80).required(),
  aim: wordsOrNone(400).required(),
  lessons: Joi.array().items(slug(60)).max(60).unique().required(),
});
const rowId = whole(1, 2 ** 31 - 1);

export const planRequests = {
  'PATCH /plan': Joi.object<PlanSettings>({
    zone: words(60),
    robotTimes: Joi.object({ beforeMin: around.required(), afterMin: around.required() }),
  }).min(1),
  'POST /terms': newTerm,
  'PUT /terms/:id': newTerm,
  'POST /days-off': Joi.object({
    days: Joi.array()
      .items(Joi.object<NewDayOff>({ name: nameWords(120).required(), ...days }))
      .min(1)
      .max(400)
      .required(),
  }),
  'POST /days-off/readings': Joi.object({ text: Joi.string().max(250_000).required() }),
  'POST /classes/:id/meetings': Joi.object<NewMeetings>({
    term: rowId.allow(null).required(),
    rule: Joi.object<MeetingRule>({
      weekdays: Joi.array().items(whole(1, 7)).min(1).max(7).unique().required(),
      at: clock.required(),
      minutes: minutes.required(),
      everyWeeks: whole(1, 4).required(),
    }),
    days: Joi.array()
      .items(Joi.object({ day: day.required(), at: clock.required(), minutes: minutes.required() }))
      .min(1)
      .max(100),
    room: thingId.allow(null).required(),
  }).xor('rule', 'days'),
  'PATCH /meetings/:id': Joi.object({ day, at: clock, minutes, room: thingId.allow(null) }).min(1),
  'PUT /classes/:id/arrangement': Joi.object<Arrangement>({
    hours: Joi.array()
      .items(
        Joi.object<PlacedHour>({
          what: Joi.alternatives()
            .try(Joi.object({ hour: rowId.required() }), Joi.object({ lesson: slug(60).required() }))
            .required(),
          meeting: rowId.allow(null).required(),
          shared: Joi.boolean(),
        }),
      )
      .max(400)
      .required(),
    lost: Joi.array()
      .items(Joi.object({ meeting: rowId.required(), lost: words(120).allow(null).required() }))
      .max(400),
    seen: Joi.array()
      .items(Joi.object({ hour: rowId.required(), meeting: rowId.allow(null).required() }))
      .max(400)
      .required(),
  }),
  'POST /things': newThing,
  'PUT /things/:id': newThing,
  'PUT /robots/:id/away': Joi.object({ away: oneOf('broken', 'out', null).required() }),
  'POST /series': newSeries,
  'PUT /series/:id': newSeries,
  'PUT /own-skills/:skill': Joi.object<Omit<Skill, 'id'>>({
    name: nameWords(60).required(),
    shows: words(300).required(),
    needs: Joi.array().items(slug(40)).max(20).unique().required(),
    lessons: Joi.array().items(slug(60)).max(60).unique().required(),
  }),
  'POST /plan/untangling': Joi.object({}),
};

const take = Joi.object<Take>({ thing: text.required(), count: count.required(), afterMin: count });
const planLesson = {
  slug: text.required(),
  title: text.required(),
  minutes: amount.required(),
  gives: Joi.array().items(text).required(),
  needs: Joi.array().items(text).required(),
  sensors: Joi.array().items(kindOfSensor).required(),
  mat: text.required(),
};
const hourLesson = Joi.object({ slug: text.required(), title: text.required() }).required();
const clash = Joi.object<Clash>({
  thing: text.required(),
  from: amount.required(),
  to: amount.required(),
  wanted: count.required(),
  have: count.required(),
  hours: Joi.array().items(count).required(),
  says: text.required(),
});
const hourChange = Joi.object<HourChange>({ hour: count.required(), lesson: text, shared: Joi.boolean() });
const robotTimes = Joi.object({ beforeMin: count.required(), afterMin: count.required() });
const ids = Joi.object({ ids: Joi.array().items(count).required() });

export const planReplies = {
  'GET /plan': Joi.object<YearPlan>({
    now: moment.required(),
    zone: text.required(),
    robotTimes: robotTimes.required(),
    terms: Joi.array()
      .items(
        named.keys({
          from: day.required(),
          to: day.required(),
          classes: Joi.array().items(named).required(),
        }),
      )
      .required(),
    daysOff: Joi.array()
      .items(named.keys({ from: day.required(), to: day.required() }))
      .required(),
    things: Joi.array()
      .items(
        Joi.object<CupboardThing>({
          id: text.required(),
          row: maybe(count),
          kind: oneOf(...thingKinds).required(),
          name: text.required(),
          shelf: text.required(),
          count: count.required(),
          broken: count.required(),
          out: count.required(),
          beforeMin: count.required(),
          afterMin: count.required(),
        }),
      )
      .required(),
    robots: Joi.array()
      .items(
        named.keys({
          kit: text.required(),
          cupboard: text.required(),
          away: oneOf('broken', 'out', null).required(),
        }),
      )
      .required(),
    classes: Joi.array()
      .items(
        named.keys({
          teams: count.required(),
          robots: Joi.array()
            .items(Joi.object({ thing: text.required(), count: count.required() }))
            .required(),
          kits: Joi.array().items(text).required(),
        }),
      )
      .required(),
    meetings: Joi.array()
      .items(
        Joi.object<MeetingEntry>({
          id: count.required(),
          class: count.required(),
          term: maybe(count),
          startsAt: moment.required(),
          minutes: count.required(),
          room: maybe(text),
          lost: maybe(text),
        }),
      )
      .required(),
    hours: Joi.array()
      .items(
        Joi.object<PlanHour>({
          id: count.required(),
          class: count.required(),
          lesson: hourLesson,
          startsAt: moment.required(),
          minutes: count.required(),
          open: Joi.boolean().required(),
          meeting: maybe(count),
          shared: Joi.boolean().required(),
          takes: Joi.array().items(take).required(),
        }),
      )
      .required(),
    lessons: Joi.array()
      .items(Joi.object<PlannableLesson>({ ...planLesson, kits: Joi.array().items(text).required() }))
      .required(),
    skills: Joi.array().items(ownSkill).required(),
    series: Joi.array()
      .items(
        named.keys({
          aim: text.required(),
          lessons: Joi.array().items(text).required(),
          shipped: Joi.boolean().required(),
        }),
      )
      .required(),
  }),
  'PATCH /plan': null,
  'POST /terms': id,
  'PUT /terms/:id': null,
  'DELETE /terms/:id': null,
  'POST /terms/:id/restoration': null,
  'POST /days-off': ids.keys({
    moved: count.required(),
    over: Joi.array().items(text).required(),
  }),
  'DELETE /days-off/:id': null,
  'POST /days-off/:id/restoration': null,
  'POST /days-off/readings': Joi.object({
    days: Joi.array()
      .items(Joi.object({ name: text.required(), from: day.required(), to: day.required() }))
      .required(),
    skipped: Joi.array().items(text).required(),
  }),
  'POST /classes/:id/meetings': ids.keys({
    off: Joi.array()
      .items(Joi.object({ day: day.required(), name: text.required() }))
      .required(),
    there: count.required(),
  }),
  'PATCH /meetings/:id': null,
  'DELETE /meetings/:id': null,
  'POST /meetings/:id/restoration': null,
  'PUT /classes/:id/arrangement': Joi.object({ hours: Joi.array().items(count).required() }),
  'POST /things': id,
  'PUT /things/:id': null,
  'DELETE /things/:id': null,
  'POST /things/:id/restoration': null,
  'PUT /robots/:id/away': null,
  'POST /series': id,
  'PUT /series/:id': null,
  'DELETE /series/:id': null,
  'POST /series/:id/restoration': null,
  'PUT /own-skills/:skill': null,
  'DELETE /own-skills/:skill': null,
  'POST /own-skills/:skill/restoration': null,
  'POST /plan/untangling': Joi.object<Untangling>({
    ways: Joi.array()
      .items(
        Joi.object<WayOut>({
          kind: oneOf(...wayKinds).required(),
          class: count.required(),
          changes: Joi.array().items(hourChange).required(),
          cost: amount.required(),
          says: text.required(),
          left: count.required(),
        }),
      )
      .required(),
    changes: Joi.array().items(hourChange).required(),
    left: Joi.array().items(clash).required(),
  }),
  'GET /periods/:id/next': Joi.object<Next>({
    teams: Joi.array()
      .items(
        Joi.object({
          team: named.required(),
          go: oneOf('on', 'same skill', 'finish', 'cannot tell').required(),
          lacks: Joi.array().items(text).required(),
          says: text.required(),
        }),
      )
      .required(),
    forAll: Joi.array()
      .items(
        Joi.object({
          skill: text.required(),
          lack: count.required(),
          of: count.required(),
          says: text.required(),
          evidence: Joi.array().items(Joi.object().unknown()).required(),
        }),
      )
      .required(),
    onWith: maybe(Joi.object(planLesson)),
    again: Joi.object()
      .pattern(Joi.string(), Joi.array().items(Joi.object(planLesson)))
      .required(),
  }),
};
