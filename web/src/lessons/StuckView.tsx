import { Ban, Search } from 'lucide-react';
import { useState } from 'react';
import type { SearchStep } from '@vigilum/core/lesson';
import { countOf } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useKey } from '../ui/useKey.ts';
import { useLongWork } from '../ui/useLongWork.ts';
import { simulations, type Job } from '../workers/simulation.ts';
import { useBench } from './LessonLayout.tsx';
import { WithSubject } from './WithSubject.tsx';

type Standing = SearchStep & { over: boolean };

function useSearchForChange() {
  const [standing, setStanding] = useState<Standing | null>(null);
  const { going, run, cancel } = useLongWork();
  const begin = (job: Job) => {
    setStanding(null);
    return run(async (mine) => {
      await simulations()[0]!.beginSearch(job);
      let last: Standing | null = null;
      while (mine()) {
        const more = await simulations()[0]!.moreSearch();
        if (!mine()) return;
        // The last answer may come without a new script tried: what was found stays.
        last = more.tried > 0 ? more : { ...(last ?? more), over: more.over };
        setStanding(last);
        if (more.over) break;
      }
    });
  };
  return { standing, going, begin, cancel };
}

function Found({ job, name }: { job: Job; name: string }) {
  const { standing, going, begin, cancel } = useSearchForChange();
  const [shown, setShown] = useState(0);
  const start = () => {
    setShown(0);
    if (!going) void begin(job);
  };
  useKey('f', start);
  const found = standing?.found ?? [];
  const text = found[shown]?.text ?? job.text;
  const before = new Set(job.text.split('\n').map((line) => line.trim()));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-2 lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        scrolls
        title="The smallest change that passes"
        aside="for the teacher’s eyes: ask the question that leads there"
        footer={
          going ? (
            <Button icon={Ban} key="cancel" onClick={cancel}>
              Cancel after {standing?.tried ?? 0} scripts
            </Button>
          ) : (
            <Button main icon={Search} key="begin" onClick={start}>
              Find it <kbd className="kbd">F</kbd>
            </Button>
          )
        }
      >
        {standing === null ? (
          <p className="text-ink-2">
            {going
              ? 'The first changes are being tried …'
              : 'Every single change of one step is tried, then pairs of changes, until the script keeps all that is expected.'}
          </p>
        ) : (
          <p className="mb-3 text-ink-2" role="status">
            {countOf(standing.tried, 'changed script')} tried,{' '}
            {standing.stage === 1 ? 'one change each' : 'two changes each'}.
          </p>
        )}
        <div className="flex flex-col gap-3">
          {found.map((change, i) => (
            <FindingCard
              key={change.text}
              tone="done"
              says={change.says}
              more={`Then ${change.passes} of ${change.runs} runs keep everything.`}
            >
              {i === shown ? null : <Button onClick={() => setShown(i)}>Show it in the script</Button>}
            </FindingCard>
          ))}
          {standing?.over && found.length === 0 ? (
            <FindingCard
              tone="risk"
              says="No single change and no likely pair of changes is enough."
              more="Start again from the piece that works, and add one step at a time."
            />
          ) : null}
        </div>
      </Panel>
      <Panel scrolls title={found.length > 0 ? 'The script after the change' : `The script: ${name}`}>
        <ol className="rounded-lg border border-line py-1 font-mono leading-7">
          {text
            .trimEnd()
            .split('\n')
            .map((line, i) => {
              const fresh = found.length > 0 && !before.has(line.trim());
              return (
                <li
                  key={i}
                  className={`flex gap-2.5 px-2 ${fresh ? 'bg-done-soft font-bold text-done' : ''}`}
                >
                  <span className="w-6 shrink-0 text-right text-ink-2">{i + 1}</span>
                  <span className="min-w-0 break-words whitespace-pre-wrap">{line || ' '}</span>
                  {fresh ? <span className="ml-auto font-sans text-sm">new</span> : null}
                </li>
              );
            })}
        </ol>
      </Panel>
    </div>
  );
}

/** What is the least that a stuck team must change? */
export default function StuckView() {
  const bench = useBench();
  return (
    <WithSubject bench={bench}>
      {({ id, name, text, known, lesson }) => <Found key={id} name={name} job={{ lesson, known, text }} />}
    </WithSubject>
  );
}
