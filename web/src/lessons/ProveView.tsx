import { ProofBench } from '../run/ProofBench.tsx';
import { useBench } from './LessonLayout.tsx';
import { WithSubject } from './WithSubject.tsx';

/** Proves any script of the lesson, for the teacher's eyes: nothing is recorded. */
export default function ProveView() {
  const bench = useBench();
  return (
    <WithSubject bench={bench}>
      {({ id, text, known, lesson }) => (
        <ProofBench key={id} lesson={lesson} known={known} text={text} recorded={null} />
      )}
    </WithSubject>
  );
}
