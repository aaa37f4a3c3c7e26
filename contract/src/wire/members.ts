import { count, moment } from '../basics.ts';
import { list, maybe, shape, type Typed } from '../shape.ts';
import { text } from './shared.ts';

const member = shape({ id: count, nickname: text, cameAt: moment, leftAt: maybe(moment) });
/** Somebody in a team, by a nickname. */
export type TeamMember = Typed<typeof member>;

export const teamMembers = list(member);
