import {
  helpFor,
  hourSpent,
  lastActivity,
  stageAt,
  stagesOf,
  type Stage,
  type TeamInLesson,
} from '@vigilum/core/classroom';
import { stripOf, type StripStep } from '@vigilum/core/hour';
import type { Change, SheetTeam } from '@vigilum/contract/types';
import { boardTeamIds, hourOf, type PeriodRow } from '../classes/periods.ts';
import { loadTeams } from '../classes/records.ts';
import type { Services } from '../http/services.ts';

/** What a team’s evidence says of it, whatever the hour's own tables hold. */
export interface EvidenceRow extends Pick<
  SheetTeam,
  'id' | 'name' | 'robot' | 'finding' | 'help' | 'lastAt' | 'place' | 'provedMin'
> {
  strip: StripStep[];
  work: number | null;
}

function rowOf(found: TeamInLesson & { work: number | null }, period: PeriodRow, now: number): EvidenceRow {
  const { team, robot, record, place, work, proof } = found;
  const stages = stagesOf(record);
  const { lesson } = record;
  const open = stages.find(({ says }: Stage) => says !== '');
  return {
    id: team.id,
    name: team.name,
    robot: robot.name,
    strip: stripOf(lesson, stages, place, (step) => stageAt(record, step)),
    finding: open ? { says: open.says, mend: open.mend } : null,
    help: helpFor(record, stages, now),
    lastAt: lastActivity(record),
    place,
    provedMin:
      proof && stages.find(({ stage }) => stage === 'prove')?.state === 'done'
        ? hourSpent(hourOf(period), proof.at)
        : null,
    work,
  };
}

/** The teams that a change concerns; null for all of them. */
function teamsOf(change: Change): readonly number[] | null | 'none' {
  switch (change.what) {
    case 'evidence':
      return change.part === 'script' ? 'none' : [change.team];
    case 'robot':
      return change.teams;
    case 'hour':
    case 'phrasebook':
    case 'course':
      return 'none';
    default:
      return null;
  }
}

/** Hours whose rows are remembered. */
const MOST_HOURS = 24;
/** A row is worked out anew after so long though nothing changed: how long a team has been quiet goes by the clock. */
const OLD_MS = 60_000;

/**
 * The rows of teams in hours, as evidence says it: worked out when somebody looks, remembered until a change concerns the team. What is
 * loaded while a change comes in is handed out but not remembered.
 */
export class SheetRows {
  private readonly services: Services;
  private readonly hours = new Map<number, Map<number, { row: EvidenceRow; at: number }>>();
  /** Goes up with every change that concerns a team, and with those that concern all. */
  private readonly changed = new Map<number, number>();
  private all = 0;

  constructor(services: Services) {
    this.services = services;
    services.changes.hear((change) => this.heard(change));
  }

  private heard(change: Change): void {
    const teams = teamsOf(change);
    if (teams === 'none') return;
    if (teams === null) {
      this.all += 1;
      this.hours.clear();
      return;
    }
    for (const team of teams) {
      this.changed.set(team, (this.changed.get(team) ?? 0) + 1);
      for (const rows of this.hours.values()) rows.delete(team);
    }
  }

  /** All teams of an hour, in their order. */
  async of(period: PeriodRow): Promise<EvidenceRow[]> {
    const { db, now } = this.services;
    const ids = await boardTeamIds(db, period);
    const at = now().getTime();
    const known = this.hours.get(period.id) ?? new Map<number, { row: EvidenceRow; at: number }>();
    const fresh = (id: number) => {
      const kept = known.get(id);
      return kept && at - kept.at < OLD_MS ? kept.row : undefined;
    };
    const missing = ids.filter((id) => !fresh(id));
    const before = { all: this.all, of: new Map(missing.map((id) => [id, this.changed.get(id) ?? 0])) };
    const { lesson_id, definition, first_id } = period;
    const loaded = await loadTeams(db, missing, { id: lesson_id, lesson: definition }, { first: first_id });
    const made = new Map(loaded.map((found) => [found.team.id, rowOf(found, period, at)]));
    if (before.all === this.all) {
      for (const [id, row] of made)
        if (before.of.get(id) === (this.changed.get(id) ?? 0)) known.set(id, { row, at });
      this.hours.delete(period.id);
      this.hours.set(period.id, known);
      if (this.hours.size > MOST_HOURS) this.hours.delete(this.hours.keys().next().value!);
    }
    return ids.flatMap((id) => made.get(id) ?? fresh(id) ?? []);
  }
}
