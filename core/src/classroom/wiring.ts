import { needsOfLesson, stepsOf, type LessonStep } from '../lesson/index.ts';
import { preflight, preflightGrade, reactionGuide, sameSocket, type SensorNeed } from '../sensing/index.ts';
import { countOf } from '../quantity/index.ts';
import { needsOf } from './known.ts';
import { stage, together } from './stage.ts';
import { sensorRecordOn, type Stage, type TeamRecord } from './standing.ts';

/** One sensor: plugged in right, and seen to answer. */
function wired(record: TeamRecord, need: SensorNeed): Stage {
  const checks = preflight(record.kit, record.build, need, needsOf(record));
  const grade = preflightGrade(checks);
  const { socket, kind } = need;
  const wrong = checks.find((check) => check.grade === grade && grade !== 'ok');
  if (grade === 'fault')
    return stage(
      'wire',
      'fault',
      wrong?.foundOn ? `${wrong.foundOn}?` : `${socket}?`,
      wrong!.says,
      wrong!.mend,
    );
  const known = sensorRecordOn(record, socket);
  const seen = known?.wireCheck?.reacts === true || (known?.sets.length ?? 0) > 0 || Boolean(known?.touch);
  if (!seen) return stage('wire', 'none', '', '', reactionGuide[kind].act);
  return stage('wire', grade === 'risk' ? 'risk' : 'done', `${socket} ${kind}`, wrong?.says, wrong?.mend);
}

/** Several sensors as one stage: so many of them are done. */
function all(record: TeamRecord, needs: readonly SensorNeed[]): Stage {
  const parts = needs.map((need) => wired(record, need));
  // A wrong plug is told before what is merely not looked at yet: the board says what the page says.
  const wrong = parts.filter(({ state }) => state === 'fault');
  const stageOfAll = together('wire', [...wrong, ...parts.filter((part) => !wrong.includes(part))]);
  if (needs.length < 2 || stageOfAll.state === 'fault') return stageOfAll;
  const done = parts.filter(({ state }) => state === 'done' || state === 'risk').length;
  const figure =
    done === needs.length ? countOf(done, 'sensor') : done > 0 ? `${done} of ${needs.length}` : '';
  return { ...stageOfAll, figure };
}

const asked = (record: TeamRecord, { part }: LessonStep): SensorNeed[] =>
  needsOfLesson(record.lesson).filter(
    ({ socket }) => part?.sockets?.some((one) => sameSocket(one, socket)) ?? true,
  );

/** How far a team is in one wire step: with the sensors that it asks for. */
export const wireStageAt = (record: TeamRecord, step: LessonStep): Stage => all(record, asked(record, step));

/** How far a team is with the wiring of its lesson: every sensor that some wire step asks for. */
export function wireStage(record: TeamRecord): Stage {
  const steps = stepsOf(record.lesson).filter(({ kind }) => kind === 'wire');
  const sockets = new Set(steps.flatMap((step) => asked(record, step).map(({ socket }) => socket)));
  const needs = needsOfLesson(record.lesson);
  return all(record, sockets.size > 0 ? needs.filter(({ socket }) => sockets.has(socket)) : needs);
}
