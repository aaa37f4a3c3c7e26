import { useMemo, useRef, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { findingsOf, isOfNewest, type SavedScript } from '@vigilum/core/classroom';
import { canRun, parseScript } from '@vigilum/core/script';
import type { NewTry } from '@vigilum/contract/types';
import { api } from '../../data/api.ts';
import { putTry, walkGrew } from '../../data/patches.ts';
import { useChange } from '../../data/queries.ts';
import { TryBench, type Comparable } from '../../run/TryBench.tsx';
import { openScripts, scriptKey } from '../../script/registry.ts';
import { writerName } from '../../script/writer.ts';
import { TuneBench } from '../../tuning/TuneBench.tsx';
import { useWalk } from '../../tuning/useWalk.ts';
import { Choice } from '../../ui/Choice.tsx';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Empty, Loading } from '../../ui/states.tsx';
import { simulation } from '../../workers/simulation.ts';
import { robotNumbers } from '../../workings/robotNumbers.ts';
import { WorkingLink } from '../../workings/WorkingLink.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';

/** Keeps a run in the record. One with other numbers says nothing of the script as it stands: the walk alone has grown. */
const useTrySave = ({ path, step }: StageContext) =>
  useChange(
    (body: NewTry) =>
      api('POST /teams/:id/lessons/:slug/tries', {
        ...path,
        body: { ...body, ...(step ? { step: step.id } : {}) },
      }),
    ({ try: made }, { knobs }, client) =>
      Object.keys(knobs ?? {}).length > 0
        ? walkGrew(client, path.id, path.slug)
        : putTry(client, path.id, path.slug, made),
  );

/** The two gravest findings of the review, before anything runs. */
function Said({ context: { record } }: { context: StageContext }) {
  const findings = useMemo(
    () =>
      findingsOf(record)
        .filter((f) => f.grade !== 'note')
        .slice(0, 2),
    [record],
  );
  return findings.map((f) => (
    <FindingCard
      key={`${f.rule}${f.line}`}
      tone={f.grade === 'fault' ? 'fault' : 'risk'}
      where={`line ${f.line}`}
      says={f.says}
      more={f.why}
    />
  ));
}

function Ready({
  context,
  script,
  toggle,
}: {
  context: StageContext;
  script: SavedScript;
  toggle: ReactNode;
}) {
  const { record, known, path, tries } = context;
  const { lesson, build, kit } = record;
  const used = useRef(0);
  const save = useTrySave(context);
  // Before and after a change: older versions of the script run from the same start, with the same dice.
  const comparables = useMemo(() => {
    const older = [...new Set([script.version - 1, ...tries.map((t) => t.scriptVersion)])];
    return older
      .filter((version) => version >= 1 && version !== script.version)
      .sort((a, b) => b - a)
      .slice(0, 6)
      .map((version): Comparable => ({
        id: String(version),
        name: `script ${version}`,
        run: async (start, seed) => {
          const { text } = await api('GET /teams/:id/lessons/:slug/script-versions/:version', {
            ...path,
            version,
          });
          return simulation().attempt({ lesson, known, text }, start, seed);
        },
      }));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a path is the same when its parts are
  }, [script.version, tries, path.id, path.slug, lesson, known]);
  const kept =
    tries[0] !== undefined &&
    isOfNewest(record.script, tries[0]) &&
    tries[0].judgements.every((j) => j.verdict === 'holds');
  return (
    <TryBench
      key={script.sameSince}
      lesson={lesson}
      known={known}
      text={script.text}
      comparables={comparables}
      toggle={toggle}
      nextSeed={() => (used.current = Math.max(used.current, ...tries.map((t) => t.seed), 0) + 1)}
      ran={({ start, seed, predicted }) =>
        save.mutate({ scriptVersion: script.version, start, seed, predicted })
      }
      before={<Said context={context} />}
      footer={
        <>
          <NextStage to="script">Change the script</NextStage>
          <WorkingLink
            sheet="stopping"
            numbers={robotNumbers({ kit, build }, { socket: lesson.need.socket })}
          >
            Stopping distance
          </WorkingLink>
          {kept ? <NextStage to="prove">On to Prove</NextStage> : null}
        </>
      }
    />
  );
}

const views = ['watch', 'tune'] as const;

/** Watch a run, or tune its numbers. */
function ViewChoice({ view, choose }: { view: (typeof views)[number]; choose: (view: string) => void }) {
  return (
    <Choice
      label="What to do with the run"
      options={views}
      words={{ watch: 'Watch', tune: 'Tune the numbers' }}
      value={view}
      choose={choose}
    />
  );
}

/** The numbers of the newest script as sliders; what is let go of is kept as a trial. */
function Tuning({
  context,
  script,
  toggle,
}: {
  context: StageContext;
  script: SavedScript;
  toggle: ReactNode;
}) {
  const { record, known, path } = context;
  const walk = useWalk(path);
  const save = useTrySave(context);
  const write = useChange(
    async (text: string) => {
      // What is typed on this page and not stored yet goes first: the numbers are put into the newest text.
      await openScripts.get(scriptKey({ team: path.id, lesson: path.slug }))?.flush();
      return api('POST /teams/:id/lessons/:slug/script-versions', {
        ...path,
        body: { text, basedOn: script.version, by: writerName() },
      });
    },
    ({ version }) => {
      toast.success(`Kept as version ${version} of the script.`);
      return [{ what: 'evidence', team: path.id, lesson: path.slug, part: 'version' }];
    },
  );
  if (walk.isPending) return <Loading what="the walk" />;
  return (
    <TuneBench
      lesson={record.lesson}
      known={known}
      text={script.text}
      trials={walk.data?.trials ?? []}
      ran={({ start, seed, knobs }, refused) =>
        save.mutate({ scriptVersion: script.version, start, seed, knobs }, { onError: refused })
      }
      keep={(text) => write.mutate(text)}
      keeping={write.isPending}
      toggle={toggle}
      before={<Said context={context} />}
    />
  );
}

/** Says why nothing can run yet, with the way to mend it. */
export function NotRunnable({ context }: { context: StageContext }) {
  const fault = findingsOf(context.record).find((f) => f.grade === 'fault');
  return (
    <Panel className="flex-1">
      <Empty title={fault ? `Line ${fault.line}: ${fault.says}` : 'There is no script to run yet.'}>
        <p>{fault ? fault.mend : 'Write the first steps, then come back.'}</p>
        <NextStage to="script">Go to Script</NextStage>
      </Empty>
    </Panel>
  );
}

/** Stage 5: predict, run, watch which step is running and what the sensor says. */
export default function TryStage() {
  const context = useStage();
  const [search, setSearch] = useSearchParams();
  const view = search.get('view') === 'tune' ? 'tune' : 'watch';
  const { script } = context.record;
  if (!script || !canRun(parseScript(script.text))) return <NotRunnable context={context} />;
  const toggle = (
    <ViewChoice
      view={view}
      choose={(next) => setSearch(next === 'tune' ? { view: 'tune' } : {}, { replace: true })}
    />
  );
  return view === 'tune' ? (
    <Tuning context={context} script={script} toggle={toggle} />
  ) : (
    <Ready context={context} script={script} toggle={toggle} />
  );
}
