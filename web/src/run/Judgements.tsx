import { sentence, type Judgement } from '@vigilum/core/expect';
import type { Lesson } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { FindingCard } from '../ui/Finding.tsx';

/** Each expectation with what came of it, and where there is a run to look at, the moment at which it was broken. */
export function Judgements({
  lesson,
  judgements,
  moments = [],
  goTo,
}: {
  lesson: Lesson;
  judgements: readonly Judgement[];
  /** When each was broken, s; null where it was not. */
  moments?: readonly (number | null)[];
  goTo?: (atS: number) => void;
}) {
  return (
    <div className="flex flex-col gap-2">
      {lesson.expectations.map((expectation, i) => {
        const judgement = judgements[i];
        if (!judgement) return null;
        const tone =
          judgement.verdict === 'holds' ? 'done' : judgement.verdict === 'broken' ? 'fault' : 'now';
        const cannot = judgement.verdict === 'cannot tell' ? 'Cannot tell: ' : '';
        return (
          <FindingCard
            key={i}
            tone={tone}
            says={sentence(expectation, lesson.course)}
            more={`${cannot}${judgement.says}.`}
          >
            {goTo && typeof moments[i] === 'number' ? (
              <button
                type="button"
                className="min-h-11 font-semibold text-sea underline"
                onClick={() => goTo(moments[i]!)}
              >
                Show it at {formatNumber(moments[i], 2)} s
              </button>
            ) : null}
          </FindingCard>
        );
      })}
    </div>
  );
}
