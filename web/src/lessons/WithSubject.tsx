import type { ReactNode } from 'react';
import { canRun, parseScript } from '@vigilum/core/script';
import type { LessonBench } from '@vigilum/contract/types';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Loading } from '../ui/states.tsx';
import { SubjectChoice } from './SubjectChoice.tsx';
import { useSubject, type Subject } from './useSubject.ts';

/** A tool under the choice of its script; says why when there is nothing it could work with. */
export function WithSubject({
  bench,
  beside,
  children,
}: {
  bench: LessonBench;
  /** Stands beside the choice of the script. */
  beside?: ReactNode;
  children: (subject: Subject) => ReactNode;
}) {
  const chosen = useSubject(bench);
  const { subject, waiting } = chosen;
  const program = subject && parseScript(subject.text);
  const fault = program?.findings.find(({ grade }) => grade === 'fault');
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        {beside}
        <SubjectChoice {...chosen} />
      </div>
      {waiting ? (
        <Loading what="the team’s script" />
      ) : subject && program && canRun(program) ? (
        children(subject)
      ) : (
        <Panel className="flex-1">
          <Empty title={fault ? `Line ${fault.line}: ${fault.says}` : 'There is no script to run.'}>
            <p>{fault ? fault.mend : 'The team has not written one yet, or the lesson names no robot.'}</p>
          </Empty>
        </Panel>
      )}
    </>
  );
}
