import { ArrowRight } from 'lucide-react';
import { Link } from 'react-router';
import { stepFacts } from '@vigilum/core/lesson';
import { useStage } from './context.ts';
import { wayTo } from './steps.ts';

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
    <Link to={`${base}/${target.id}`} className="btn btn-plain">
      {says} <ArrowRight size={18} aria-hidden="true" />
    </Link>
  );
}
