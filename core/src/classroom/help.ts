import { lastActivity, type Stage, type StageName, type TeamRecord } from './standing.ts';

/** A team that needs the teacher, and why. */
export interface HelpCall {
  stage: StageName;
  grade: 'fault' | 'risk';
  says: string;
  mend: string;
  /** Minutes since the team last did anything; null when it never did. */
  quietMin: number | null;
}

/**
 * What a team needs help with: its first fault, else its first risk. A later stage that came out well
 * does not hide an earlier risk.
 */
export function helpFor(record: TeamRecord, stages: readonly Stage[], now: number): HelpCall | null {
  const wrong = stages.find((s) => s.state === 'fault') ?? stages.find((s) => s.state === 'risk');
  if (!wrong) return null;
  const at = lastActivity(record);
  return {
    stage: wrong.stage,
    grade: wrong.state === 'fault' ? 'fault' : 'risk',
    says: wrong.says,
    mend: wrong.mend,
    quietMin: at === null ? null : Math.max(0, Math.floor((now - at) / 60_000)),
  };
}

/** Orders calls for help: faults before risks, then whoever has been quiet longest (never begun counts longest). */
export function byUrgency(a: HelpCall, b: HelpCall): number {
  if (a.grade !== b.grade) return a.grade === 'fault' ? -1 : 1;
  return (b.quietMin ?? Infinity) - (a.quietMin ?? Infinity) || 0;
}
