import { formatNumber } from '@vigilum/core/quantity';
import { fitBraking, reactionOf, topSpeedMmPerS, withoutMeasure } from '@vigilum/core/motion';
import type { Braking } from '@vigilum/contract/types';
import { Button } from '../../ui/Button.tsx';
import { api } from '../../data/api.ts';
import { robotChange } from '../../reading/saves.ts';
import { useChange } from '../../data/queries.ts';
import type { StageContext } from '../../workspace/context.ts';

/** What the trials say about this robot's stopping, and the way to let the simulation use it. */
export function BrakingFit({ context }: { context: StageContext }) {
  const { record, trials, robot, fitted } = context;
  const { kit, build, braking } = record;
  const save = useChange(
    (braking: Braking['braking']) => api('PUT /robots/:id/braking', { id: robot.id, body: { braking } }),
    (_, __, client) => [robotChange(client, robot.id, 'braking')],
  );
  const used = braking?.tauBrakeS;
  if (!fitted) return null;
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  const points = trials.flatMap(({ pastMm, rested, speedPercent }) =>
    pastMm !== null && pastMm > 0 && rested && speedPercent !== null
      ? [{ speedMmPerS: (top * speedPercent) / 100, stopMm: pastMm }]
      : [],
  );
  const fit = fitBraking(points, reactionOf(kit, fitted.spec.samplePeriodMs));
  const ms = (s: number) => `${formatNumber(1000 * s, 0)} ms`;
  return (
    <section className="mt-3 border-t border-line-soft pt-3">
      <h3 className="font-bold">How this robot stops</h3>
      {fit.ok ? (
        <p>
          From {fit.value.trials} trials{fit.value.speeds > 1 ? ` at ${fit.value.speeds} speeds` : ''}: it
          stands still <strong className="font-mono">{ms(fit.value.slopeS)}</strong> after the edge has
          passed, braking with a time constant of{' '}
          <strong className="font-mono">{ms(fit.value.tauBrakeS)}</strong>
          <span className="text-ink-2">
            {' '}
            (the kit says {ms(kit.drive.tauBrakeS)}; trials lie ± {formatNumber(fit.value.scatterMm)} mm off).
          </span>
        </p>
      ) : (
        <p className="text-ink-2">
          {fit.says} {fit.mend}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {fit.ok ? (
          <Button
            disabled={save.isPending}
            onClick={() =>
              save.mutate({
                ...braking,
                commandDelayMs: fit.value.commandDelayMs,
                tauBrakeS: fit.value.tauBrakeS,
              })
            }
          >
            {used !== undefined ? 'Use the newest trials' : 'Let the simulation use it'}
          </Button>
        ) : null}
        {used === undefined ? null : (
          <>
            <Button disabled={save.isPending} onClick={() => save.mutate(withoutMeasure(braking, 'stops'))}>
              Back to the kit’s
            </Button>
            <span className="self-center text-ink-2">in use: {ms(used)}</span>
          </>
        )}
      </div>
    </section>
  );
}
