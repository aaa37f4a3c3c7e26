import { useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, type ComponentType, type LazyExoticComponent } from 'react';
import { isWorking, stepFacts, type WorkingKind } from '@vigilum/core/lesson';
import { LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useIsTeam } from '../data/me.ts';
import { putPlace } from '../data/patches.ts';
import { Empty, Loading } from '../ui/states.tsx';
import { useStage } from '../workspace/context.ts';
import { TextStep } from '../workspace/TextStep.tsx';

const loads: Record<WorkingKind, () => Promise<{ default: ComponentType }>> = {
  wire: () => import('./wire/WireStage.tsx'),
  read: () => import('./read/ReadStage.tsx'),
  decide: () => import('./decide/DecideStage.tsx'),
  script: () => import('./script/ScriptStage.tsx'),
  try: () => import('./try/TryStage.tsx'),
  prove: () => import('./prove/ProveStage.tsx'),
  floor: () => import('./floor/FloorStage.tsx'),
};
const stages: Record<WorkingKind, LazyExoticComponent<ComponentType>> = {
  wire: lazy(loads.wire),
  read: lazy(loads.read),
  decide: lazy(loads.decide),
  script: lazy(loads.script),
  try: lazy(loads.try),
  prove: lazy(loads.prove),
  floor: lazy(loads.floor),
};
/** The code of all stages, and of what they load when it is asked for. */
export const stageLoads: (() => Promise<unknown>)[] = [
  ...Object.values(loads),
  () => import('../ui/Chart.tsx'),
  () => import('../phrasebook/PasteProgram.tsx'),
  () => import('./script/FlowView.tsx'),
];

/** The step that a team is at: its stage, or its text. Where it is, is kept. */
export default function StepPage() {
  const { step, path, place, base } = useStage();
  const client = useQueryClient();
  const isTeam = useIsTeam();
  useEffect(() => {
    // Coming back where one left is a comfort: without a server the step still opens.
    // Where a team is, its own tablets say; who looks in does not move it.
    if (!step || step.id === place || !isTeam) return;
    putPlace(client, path.id, path.slug, step.id);
    void api('PUT /teams/:id/lessons/:slug/place', { ...path, body: { step: step.id } }).catch(
      () => undefined,
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told once for each step that is opened
  }, [path.id, path.slug, step?.id, isTeam]);
  if (!step)
    return (
      <Empty title="This lesson has no such step.">
        <LinkButton to={base}>To the lesson</LinkButton>
      </Empty>
    );
  if (!isWorking(step.kind)) return <TextStep key={step.id} step={step} />;
  const Stage = stages[step.kind];
  return (
    <Suspense fallback={<Loading what={stepFacts[step.kind].word} />}>
      <Stage key={step.id} />
    </Suspense>
  );
}
