import { useRef } from 'react';
import { TryBench } from '../run/TryBench.tsx';
import { useBench } from './LessonLayout.tsx';
import { WithSubject } from './WithSubject.tsx';

/** Runs any script of the lesson once, for the teacher's eyes: nothing is recorded. */
export default function TryView() {
  const bench = useBench();
  const seed = useRef(0);
  return (
    <WithSubject bench={bench}>
      {({ id, text, known, lesson }) => (
        <TryBench key={id} lesson={lesson} known={known} text={text} nextSeed={() => ++seed.current} />
      )}
    </WithSubject>
  );
}
