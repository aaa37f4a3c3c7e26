import { ArrowLeft, ArrowRight } from 'lucide-react';
import { stepFacts, stepsOf } from '@vigilum/core/lesson';
import { LinkButton } from '../ui/Button.tsx';
import { useStage, type StageContext } from './context.ts';
import { wayTo } from '@vigilum/core/hour';

/** The way on, shown when a stage has come out well enough; it leads along the lesson's own steps. */
export function NextStage({ to, children }: { to: string; children: string }) {
  const { lesson, step, base } = useStage();
  const target = wayTo(lesson, step, to);
  if (!target) return null;
  // “On to Try” becomes “On to Predict” where the lesson has that step in between.
  const says =
    target.kind === to
      ? children
      : children.replace(/on to .*$/i, (way) => `${way.slice(0, 6)}${stepFacts[target.kind].word}`);
  return (
    <LinkButton to={`${base}/${target.id}`}>
      {/^back/i.test(says) ? <ArrowLeft size={18} aria-hidden="true" /> : null} {says}{' '}
      {/^back/i.test(says) ? null : <ArrowRight size={18} aria-hidden="true" />}
    </LinkButton>
  );
}

const nextOf = ({ lesson, step }: Pick<StageContext, 'lesson' | 'step'>) => {
  const steps = stepsOf(lesson);
  return step && steps[steps.findIndex(({ id }) => id === step.id) + 1];
};

/** Address of the step after the open one; null after the last. */
export const nextPath = (context: StageContext): string | null => {
  const next = nextOf(context);
  return next ? `${context.base}/${next.id}` : null;
};

/** The way on from a step that may come more than once: to whatever the lesson has next. */
export function NextStep({ inUse = false }: { inUse?: boolean }) {
  const context = useStage();
  const next = nextOf(context);
  if (!next) return null;
  return (
    <LinkButton after={ArrowRight} to={`${context.base}/${next.id}`}>
      {inUse ? 'In use: on' : 'On'} to {stepFacts[next.kind].word}
    </LinkButton>
  );
}
