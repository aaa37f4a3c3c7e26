import { standings, type Overruling, type Skill, type SkillEvidence } from '@vigilum/core/year';
import { count, moment, words } from '../basics.ts';
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
import { evidence, walkTrial } from './evidence.ts';
import { teamMembers } from './members.ts';
import { named, number, text } from './shared.ts';

const newOverruling = shape({ standing: oneOf(...standings), reason: words(300) });
/** What a teacher says of a team’s skill against what was computed. */
export type NewOverruling = Typed<typeof newOverruling>;
const overruling = shapeOf<Overruling>()({
  standing: oneOf(...standings),
  reason: text,
  by: text,
  at: moment,
});
const skillEvidence = shapeOf<SkillEvidence>()({
  skill: text,
  weight: oneOf('tried', 'once', 'firm', 'unkind'),
  at: moment,
  says: text,
  lesson: shape({ slug: text, title: text }),
  hour: maybe(count),
});
export const ownSkill = shapeOf<Skill>()({
  id: text,
  name: text,
  shows: text,
  needs: list(text),
  lessons: optional(list(text)),
});

const teamShown = more(named, {
  evidence: list(skillEvidence),
  /** By skill. */
  overruled: record(overruling),
});
/** One team of a class’s record: all that its works say of its skills, and what was said against that. */
export type TeamShown = Typed<typeof teamShown>;
const classShown = shape({
  now: moment,
  class: named,
  /** Works that it was computed from. */
  works: count,
  /** Skills that teachers added. */
  own: list(ownSkill),
  teams: list(teamShown),
});
export type ClassShown = Typed<typeof classShown>;

const logbookPiece = shape({
  evidence,
  walk: list(walkTrial),
  predictions: list(shape({ said: number, came: number, at: moment })),
  /** What it says of the team’s skills. */
  shown: list(skillEvidence),
});
/** One piece of a team’s work as its logbook tells it. */
export type LogbookPiece = Typed<typeof logbookPiece>;
const logbook = shape({
  now: moment,
  team: named,
  /** Who is or was in it, in the order in which they came. */
  members: teamMembers,
  /** Skills that teachers added. */
  own: list(ownSkill),
  class: named,
  /** Oldest first. */
  pieces: list(logbookPiece),
});
export type Logbook = Typed<typeof logbook>;

export const yearRoutes = {
  'GET /teams/:id/logbook': { reply: logbook },
  'GET /classes/:id/skills': { reply: classShown },
  'PUT /teams/:id/skills/:skill': { body: newOverruling, reply: overruling },
  'DELETE /teams/:id/skills/:skill': { reply: null },
} satisfies RouteShapes;
