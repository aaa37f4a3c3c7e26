import { ArrowLeft, ArrowRight } from 'lucide-react';
import { stepFacts, stepsOf, type LessonStep } from '@vigilum/core/lesson';
import { LinkButton } from '../ui/Button.tsx';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { WhatIsChecked } from '../run/WhatIsChecked.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useStage } from './context.ts';
import { asked, Notes } from './Notes.tsx';
import { HandIn } from './HandIn.tsx';
import { StepText } from './StepText.tsx';

/** A step that is read and talked about, with the course beside it. */
export function TextStep({ step }: { step: LessonStep }) {
  const { lesson, base } = useStage();
  const steps = stepsOf(lesson);
  const at = steps.findIndex(({ id }) => id === step.id);
  const [before, after] = [steps[at - 1], steps[at + 1]];
  const shows = ['brief', 'predict', 'extend'].includes(step.kind);
  return (
    <div
      className={`grid min-h-0 flex-1 gap-4 ${shows ? 'lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]' : ''} lg:grid-rows-[minmax(0,1fr)]`}
    >
      <Panel
        className={shows ? '' : 'mx-auto w-full max-w-[52rem]'}
        footer={
          <>
            {before ? (
              <LinkButton icon={ArrowLeft} to={`${base}/${before.id}`}>
                Back to {stepFacts[before.kind].word}
              </LinkButton>
            ) : null}
            {after ? (
              <LinkButton main after={ArrowRight} to={`${base}/${after.id}`}>
                On to {stepFacts[after.kind].word}
              </LinkButton>
            ) : null}
          </>
        }
      >
        <div className="flex flex-col gap-4 text-lg">
          <StepText step={step} />
          {step.kind === 'brief' && lesson.expectations.length > 0 ? <WhatIsChecked lesson={lesson} /> : null}
          {asked[step.kind] ? <Notes step={step} /> : null}
          {step.kind === 'homework' ? <HandIn step={step} /> : null}
        </div>
      </Panel>
      {shows ? (
        <Panel title={lesson.course.name} aside="a square is 10 cm">
          <MatDrawing
            className="min-h-0 w-full flex-1"
            course={lesson.course}
            label={`The course ${lesson.course.name}, to scale.`}
          />
        </Panel>
      ) : null}
    </div>
  );
}
