import { useMutation } from '@tanstack/react-query';
import { FilePlus2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { sentence } from '@vigilum/core/expect';
import {
  decideWayOf,
  lessonAims,
  proposeLesson,
  sensorAt,
  stepsOf,
  thingsToRead,
  timePlan,
  type Lesson,
} from '@vigilum/core/lesson';
import { sensorWords } from '@vigilum/core/sensing';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useKits, useRobots } from '../data/queries.ts';
import { slugFor } from '../ui/slugFor.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ImportLesson } from './ImportLesson.tsx';

const nothing: Omit<Lesson, 'need' | 'robot'> = {
  slug: '',
  title: 'New lesson',
  aim: '',
  minutes: 50,
  read: { burst: 20, tasks: [] },
  startScript: '',
  modelScript: '',
  course: {
    name: 'Free floor',
    widthMm: 1600,
    heightMm: 1600,
    base: { name: 'floor', reflectance: 0.6 },
    marks: [],
    starts: [{ name: 'A', xMm: 800, yMm: 300, bearingDeg: 0 }],
    landmarks: [],
  },
  expectations: [],
  conditions: {
    alongMm: [-20, 20],
    acrossMm: [-10, 10],
    bearingDeg: [-2, 2],
    lightShift: [-3, 3],
    mismatch: [-0.008, 0.008],
  },
  proof: { runs: 50, bar: 0.9, seed: 1 },
  timeLimitS: 20,
  floor: { trials: 3, landmark: '' },
  cautions: [],
};

/** A new lesson: from an aim and a kit, from a file, or from nothing. */
export default function NewLessonPage() {
  const kits = useKits();
  const robots = useRobots();
  const navigate = useNavigate();
  const [kitSlug, setKit] = useState('');
  const [aimId, setAim] = useState(lessonAims[0]!.id);
  const all = (kits.data?.kits ?? []).map(({ kit: one }) => one);
  const kit = all.find(({ slug }) => slug === kitSlug) ?? all[0];
  // Where there is no robot of the kit yet, one as it will be first put together: lesson and robots agree on sockets.
  const known =
    robots.data?.robots.find((robot) => robot.kit.slug === kit?.slug)?.build ??
    kits.data?.kits.find((one) => one.kit.slug === kit?.slug)?.usual ??
    null;
  const aim = lessonAims.find(({ id }) => id === aimId)!;
  const proposal = useMemo(() => (kit ? proposeLesson(aim, kit, known) : null), [aim, kit, known]);
  const add = useMutation({
    mutationFn: (lesson: Lesson) =>
      api('POST /lessons', { body: { lesson: { ...lesson, slug: slugFor(lesson.title, 'lesson') } } }),
    onSuccess: ({ lesson }) => void navigate(`/lessons/${lesson.slug}/build/steps`),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  if (kits.isPending || robots.isPending) return <Loading what="the kits" />;
  if (kits.isError) return <Failed error={kits.error} again={() => void kits.refetch()} />;
  if (!kit || !proposal)
    return (
      <Failed
        error={new Error('There is no kit yet. Add one under Robots, then come back.')}
        again={() => void kits.refetch()}
      />
    );
  const fromNothing = () => {
    const [sensor] = kit.sensors;
    const socket = kit.sockets.find(({ takes }) => takes === 'sensor')?.name;
    if (!sensor || !socket) return;
    add.mutate({
      ...nothing,
      need: { kind: sensor.modes[0]!.kind, socket, name: sensor.name.replaceAll(/[^a-z ]/gi, ' ') },
      ...(known ? { robot: { kit: kit.slug, build: known, thresholds: {} } } : {}),
    });
  };
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-2.5 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <BackLink to="/lessons" title="Back to all lessons" />
        <h1 className="text-title font-bold">New lesson</h1>
        <Choice
          label="Kit"
          options={all.map(({ slug }) => slug)}
          words={Object.fromEntries(all.map(({ slug, name }) => [slug, name]))}
          value={kit.slug}
          choose={setKit}
        />
        <span className="ml-auto flex flex-wrap gap-2">
          <ImportLesson />
          <Button icon={FilePlus2} disabled={add.isPending} onClick={fromNothing}>
            Start from nothing
          </Button>
        </span>
      </header>
      <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[22rem_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
        <Panel title="What shall the robot do?">
          <ul className="flex flex-col gap-1">
            {lessonAims.map(({ id, name, says }) => {
              const possible = proposeLesson(
                lessonAims.find((one) => one.id === id)!,
                kit,
                known,
              ).ok;
              return (
                <li key={id}>
                  <button
                    type="button"
                    aria-pressed={id === aimId}
                    className={`w-full rounded-lg px-3 py-2 text-left ${id === aimId ? 'bg-sea-soft text-sea' : 'hover:bg-line-soft'}`}
                    onClick={() => setAim(id)}
                  >
                    <strong>{name}</strong>
                    {possible ? null : (
                      <span className="ml-2 font-bold text-fault">✕ not with a {kit.name}</span>
                    )}
                    <span className="block text-ink-2">{says}</span>
                  </button>
                </li>
              );
            })}
          </ul>
        </Panel>
        {proposal.ok ? (
          <Panel
            scrolls
            title={proposal.value.title}
            aside={proposal.value.aim}
            footer={
              <Button main disabled={add.isPending} onClick={() => add.mutate(proposal.value)}>
                Take this lesson and go on
              </Button>
            }
          >
            <Proposal lesson={proposal.value} />
          </Panel>
        ) : (
          <Panel scrolls title={`Not with a ${kit.name}`}>
            <p className="border-l-4 border-l-fault pl-3">
              <strong>{proposal.says}</strong> {proposal.mend}
            </p>
          </Panel>
        )}
      </div>
    </main>
  );
}

function Proposal({ lesson }: { lesson: Lesson }) {
  const plan = timePlan(lesson);
  const reads = stepsOf(lesson).filter(({ kind }) => kind === 'read');
  const decides = stepsOf(lesson).filter(({ kind }) => kind === 'decide');
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="flex flex-col gap-3">
        <MatDrawing
          className="max-h-72 w-full"
          course={lesson.course}
          label={`The course ${lesson.course.name}, to scale.`}
        />
        <p className="text-ink-2">
          {[lesson.need, ...(lesson.also ?? [])]
            .map(({ kind, socket }) => `${sensorWords[kind]} on ${socket}`)
            .join(' · ')}
        </p>
        <pre className="rounded-lg border border-line p-3 font-mono leading-6 whitespace-pre-wrap">
          {lesson.modelScript.trimEnd()}
        </pre>
        <h3 className="font-bold">The robot is expected to</h3>
        <ul className="-mt-2 text-ink-2">
          {lesson.expectations.map((expectation, i) => (
            <li key={i}>{sentence(expectation, lesson.course)}</li>
          ))}
        </ul>
      </div>
      <div>
        <h3 className="mb-1 font-bold">Its steps</h3>
        <ol className="flex flex-col gap-0.5">
          {plan.steps.map(({ step, fromMin, toMin }) => (
            <li key={step.id} className="flex gap-3">
              <span className="w-16 shrink-0 text-right font-mono text-ink-2">
                {toMin > fromMin ? `${fromMin}–${toMin}` : ''}
              </span>
              {step.title}
            </li>
          ))}
        </ol>
        <p className="mt-1 text-ink-2">{plan.says}</p>
        {reads.length > 0 ? (
          <>
            <h3 className="mt-3 mb-1 font-bold">Read and decided before the script</h3>
            <ul className="text-ink-2">
              {reads.map((step) => (
                <li key={step.id}>
                  {sensorAt(lesson, step).name}:{' '}
                  {thingsToRead(lesson, step)
                    .map(({ name }) => name)
                    .join(', ')}
                </li>
              ))}
              {decides.map((step) => (
                <li key={step.id}>
                  threshold of {sensorAt(lesson, step).name}:{' '}
                  {step.part?.method ??
                    (decideWayOf(sensorAt(lesson, step).kind) === 'gap'
                      ? 'from the gap, the speed and the way that stopping takes'
                      : 'the method that the readings speak for')}
                </li>
              ))}
            </ul>
          </>
        ) : null}
        <h3 className="mt-3 mb-1 font-bold">Skills</h3>
        <ul className="text-ink-2">
          {(lesson.skills ?? []).map((skill) => (
            <li key={skill}>{skill}</li>
          ))}
        </ul>
        <h3 className="mt-3 mb-1 font-bold">Cautions</h3>
        <ul className="text-ink-2">
          {lesson.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
        <p className="mt-3 text-ink-2">
          Everything in it can be changed afterwards; its model answer is proved at once.
        </p>
      </div>
    </div>
  );
}
