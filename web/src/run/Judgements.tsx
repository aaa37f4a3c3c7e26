import { sentence, type Judgement } from '@vigilum/core/expect';
import type { Lesson } from '@vigilum/core/lesson';
import { FindingCard } from '../ui/Finding.tsx';

/** Each expectation with what came of it. */
export function Judgements({ lesson, judgements }: { lesson: Lesson; judgements: readonly Judgement[] }) {
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
          />
        );
      })}
    </div>
  );
}
