import Joi from 'joi';
import {
  thingKinds,
  wayKinds,
  type Arrangement,
  type Clash,
  type HourChange,
  type MeetingRule,
  type Next,
  type PlanLesson,
  type Take,
  type WayOut,
} from '@vigilum/core/year';
import { amount, count, day, moment, nameWords, rowId, slug, whole, words, wordsOrNone } from '../basics.ts';
import {
  either,
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
import { flag, id, ids, kindOfSensor, named, text } from './shared.ts';
import { ownSkill } from './year.ts';

const clock = Joi.string().pattern(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time as 09:50');
const days = { from: day, to: day };
const minutes = whole(5, 480);
const around = whole(0, 480);
const thingId = Joi.string().pattern(/^[a-z0-9-]{1,60}$/, 'the id of a thing');

const newTerm = shape({ name: nameWords(60), ...days });
export type NewTerm = Typed<typeof newTerm>;
const term = more(named, {
  ...days,
  /** Those that have meetings in it, put away or not. */
  classes: list(named),
});
export type Term = Typed<typeof term>;
const newDayOff = shape({ name: nameWords(120), ...days });
export type NewDayOff = Typed<typeof newDayOff>;
const dayOffEntry = more(named, days);
export type DayOffEntry = Typed<typeof dayOffEntry>;

const newSeries = shape({
  name: nameWords(80),
  aim: wordsOrNone(400),
  /** Slugs. */
  lessons: list(slug(60)).max(60).unique(),
});
export type NewSeries = Typed<typeof newSeries>;
const series = more(named, {
  aim: text,
  /** Slugs. */
  lessons: list(text),
  /** Came with Vigilum. */
  shipped: flag,
});
/** Lessons in an order. */
export type Series = Typed<typeof series>;

const newThing = shape({
  kind: oneOf(...thingKinds.filter((kind) => kind !== 'robots')),
  name: nameWords(80),
  shelf: wordsOrNone(40),
  count: whole(0, 999),
  broken: whole(0, 999),
  out: whole(0, 999),
  beforeMin: around,
  afterMin: around,
});
export type NewThing = Typed<typeof newThing>;
const cupboardThing = shape({
  id: text,
  /** Its id where it can be changed; robots are counted by their kits. */
  row: maybe(count),
  kind: oneOf(...thingKinds),
  name: text,
  shelf: text,
  count,
  broken: count,
  out: count,
  beforeMin: count,
  afterMin: count,
});
/** Something in the cupboard, or a room. */
export type CupboardThing = Typed<typeof cupboardThing>;
const away = oneOf('broken', 'out', null);
const cupboardRobot = more(named, { kit: text, cupboard: text, away });
export type CupboardRobot = Typed<typeof cupboardRobot>;

const meetingEntry = shape({
  id: count,
  class: count,
  term: maybe(count),
  startsAt: moment,
  minutes: count,
  /** Id of the room as a thing. */
  room: maybe(text),
  /** Why it does not take place. */
  lost: maybe(text),
});
export type MeetingEntry = Typed<typeof meetingEntry>;
const planHour = shape({
  id: count,
  class: count,
  lesson: shape({ slug: text, title: text }),
  startsAt: moment,
  minutes: count,
  /** It is planned and has not begun: it can be moved. */
  open: flag,
  meeting: maybe(count),
  shared: flag,
  takes: list(shapeOf<Take>()({ thing: text, count, afterMin: optional(count) })),
});
/** An hour as the plan knows it. */
export type PlanHour = Typed<typeof planHour>;

const lessonFields = {
  slug: text,
  title: text,
  minutes: amount,
  gives: list(text),
  needs: list(text),
  sensors: list(kindOfSensor),
  mat: text,
};
const planLesson = shapeOf<PlanLesson>()(lessonFields);
const plannableLesson = shape({ ...lessonFields, kits: list(text) });
/** A lesson as planning sees it, with the kits that can do it. */
export type PlannableLesson = Typed<typeof plannableLesson>;

const yearPlan = shape({
  now: moment,
  /** Time zone of the school, as the IANA names it. */
  zone: text,
  /** How long robots are laid out before and cleared away after an hour, min. */
  robotTimes: shape({ beforeMin: count, afterMin: count }),
  terms: list(term),
  daysOff: list(dayOffEntry),
  things: list(cupboardThing),
  robots: list(cupboardRobot),
  classes: list(more(named, { teams: count, robots: list(shape({ thing: text, count })), kits: list(text) })),
  meetings: list(meetingEntry),
  hours: list(planHour),
  lessons: list(plannableLesson),
  /** Skills that teachers added. */
  skills: list(ownSkill),
  series: list(series),
});
/** Everything that the pages of the plan work from. */
export type YearPlan = Typed<typeof yearPlan>;
const planSettings = shape({
  zone: optional(words(60)),
  robotTimes: optional(shape({ beforeMin: around, afterMin: around })),
}).min(1);
export type PlanSettings = Typed<typeof planSettings>;

const newMeetings = shape({
  term: maybe(rowId),
  rule: optional(
    shapeOf<MeetingRule>()({
      weekdays: list(whole(1, 7)).min(1).max(7).unique(),
      at: clock,
      minutes,
      everyWeeks: whole(1, 4),
    }),
  ),
  days: optional(
    list(shape({ day, at: clock, minutes }))
      .min(1)
      .max(100),
  ),
  room: maybe(thingId),
}).xor('rule', 'days');
/** When a class is to meet: by a rule over a term, or on days that are named. */
export type NewMeetings = Typed<typeof newMeetings>;
const madeMeetings = more(ids, {
  /** Days of the rule that are off. */
  off: list(shape({ day, name: text })),
  /** Meetings that were there already at that time. */
  there: count,
});
export type MadeMeetings = Typed<typeof madeMeetings>;
const meetingChange = shape({
  day: optional(day),
  at: optional(clock),
  minutes: optional(minutes),
  room: optional(maybe(thingId)),
}).min(1);

const arrangement = shapeOf<Arrangement>()({
  hours: list(
    shape({
      what: either(shape({ hour: rowId }), shape({ lesson: slug(60) })),
      meeting: maybe(rowId),
      shared: optional(flag),
    }),
  ).max(400),
  lost: optional(list(shape({ meeting: rowId, lost: maybe(words(120)) })).max(400)),
  seen: list(shape({ hour: rowId, meeting: maybe(rowId) })).max(400),
});
export type { Arrangement };

const hourChange = shapeOf<HourChange>()({
  hour: count,
  lesson: optional(text),
  shared: optional(flag),
});
const untangling = shape({
  ways: list(
    shapeOf<WayOut>()({
      kind: oneOf(...wayKinds),
      class: count,
      changes: list(hourChange),
      cost: amount,
      says: text,
      left: count,
    }),
  ),
  changes: list(hourChange),
  left: list(
    shapeOf<Clash>()({
      thing: text,
      from: amount,
      to: amount,
      wanted: count,
      have: count,
      hours: list(count),
      says: text,
    }),
  ),
});
/** Takes it as the plan is now: nothing is changed. */
export type Untangling = Typed<typeof untangling>;

const next = shapeOf<Next>()({
  teams: list(
    shape({
      team: named,
      go: oneOf('on', 'same skill', 'finish', 'cannot tell'),
      lacks: list(text),
      says: text,
    }),
  ),
  forAll: list(
    shape({
      skill: text,
      lack: count,
      of: count,
      says: text,
      evidence: list(Joi.object<Next['forAll'][number]['evidence'][number]>().unknown()),
    }),
  ),
  onWith: maybe(planLesson),
  again: record(list(planLesson)),
});

const newSkill = shape({
  name: nameWords(60),
  shows: words(300),
  needs: list(slug(40)).max(20).unique(),
  lessons: list(slug(60)).max(60).unique(),
});

export const planRoutes = {
  'GET /plan': { reply: yearPlan },
  'PATCH /plan': { body: planSettings, reply: null },
  'POST /terms': { body: newTerm, reply: id },
  'PUT /terms/:id': { body: newTerm, reply: null },
  'DELETE /terms/:id': { reply: null },
  'POST /terms/:id/restoration': { reply: null },
  'POST /days-off': {
    body: shape({ days: list(newDayOff).min(1).max(400) }),
    reply: more(ids, { moved: count, over: list(text) }),
  },
  'DELETE /days-off/:id': { reply: null },
  'POST /days-off/:id/restoration': { reply: null },
  'POST /days-off/readings': {
    body: shape({ text: Joi.string().max(250_000) }),
    reply: shape({ days: list(shape({ name: text, ...days })), skipped: list(text) }),
  },
  'POST /classes/:id/meetings': { body: newMeetings, reply: madeMeetings },
  'PATCH /meetings/:id': { body: meetingChange, reply: null },
  'DELETE /meetings/:id': { reply: null },
  'POST /meetings/:id/restoration': { reply: null },
  'PUT /classes/:id/arrangement': { body: arrangement, reply: shape({ hours: list(count) }) },
  'POST /things': { body: newThing, reply: id },
  'PUT /things/:id': { body: newThing, reply: null },
  'DELETE /things/:id': { reply: null },
  'POST /things/:id/restoration': { reply: null },
  'PUT /robots/:id/away': { body: shape({ away }), reply: null },
  'POST /series': { body: newSeries, reply: id },
  'PUT /series/:id': { body: newSeries, reply: null },
  'DELETE /series/:id': { reply: null },
  'POST /series/:id/restoration': { reply: null },
  'PUT /own-skills/:skill': { body: newSkill, reply: null },
  'DELETE /own-skills/:skill': { reply: null },
  'POST /own-skills/:skill/restoration': { reply: null },
  'POST /plan/untangling': { body: shape({}), reply: untangling },
  'GET /periods/:id/next': { reply: next },
} satisfies RouteShapes;
