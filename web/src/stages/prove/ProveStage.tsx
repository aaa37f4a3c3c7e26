import { canRun, parseScript } from '@vigilum/core/script';
import { isOfNewest, type SavedScript } from '@vigilum/core/classroom';
import type { NewProof } from '@vigilum/contract/types';
import { api } from '../../data/api.ts';
import { putProof } from '../../data/patches.ts';
import { useChange } from '../../data/queries.ts';
import { ProofBench } from '../../run/ProofBench.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { NotRunnable } from '../try/TryStage.tsx';

function Ready({ context, script }: { context: StageContext; script: SavedScript }) {
  const { record, known, path, step, proof: recorded } = context;
  const save = useChange(
    (body: NewProof) =>
      api('POST /teams/:id/lessons/:slug/proofs', {
        ...path,
        body: { ...body, ...(step ? { step: step.id } : {}) },
      }),
    ({ stored }, _, client) => putProof(client, path.id, path.slug, stored),
  );
  const same = recorded && isOfNewest(record.script, recorded) ? recorded : null;
  return (
    <ProofBench
      lesson={record.lesson}
      known={known}
      text={script.text}
      recorded={same ? { seed: same.seed, runs: same.proof.runs } : null}
      proved={({ seed, runs, conditions }) =>
        // What a team tries under other conditions is for its own eyes: the record keeps the lesson's.
        conditions ? undefined : save.mutate({ scriptVersion: script.version, seed, runs })
      }
      next={<NextStage to="floor">On to Floor</NextStage>}
    />
  );
}

/** Stage 6: many seeded runs against what was expected. */
export default function ProveStage() {
  const context = useStage();
  const { script } = context.record;
  if (!script || !canRun(parseScript(script.text))) return <NotRunnable context={context} />;
  return <Ready key={script.sameSince} context={context} script={script} />;
}
