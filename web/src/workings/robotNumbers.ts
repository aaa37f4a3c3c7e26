import { footprintRadius } from '@vigilum/core/sim';
import { reactionOf, topSpeedMmPerS } from '@vigilum/core/motion';
import { formatNumber } from '@vigilum/core/quantity';
import { sensorOf, type Kit, type RobotBuild } from '@vigilum/core/sensing';

/** A kit that knows no limit: so great a one that no wheel reaches it, mm/s². */
const NO_LIMIT = 100_000;

/** The numbers that a robot brings to the workings, in their own units (mm, ms, mm/s). */
export function robotNumbers(
  { kit, build }: { kit: Kit; build: RobotBuild },
  { percent = 30, socket }: { percent?: number; socket?: string } = {},
): Record<string, number> {
  const fitting = build.fittings.find((f) =>
    socket === undefined ? ['light', 'distance'].includes(f.mode) : f.socket === socket,
  );
  const sensor = fitting && sensorOf(kit, fitting);
  const reaction = reactionOf(kit, sensor?.samplePeriodMs ?? 50);
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  return {
    diameter: build.wheelDiameterMm,
    track: build.trackMm,
    sample: 1000 * reaction.samplePeriodS,
    step: 1000 * reaction.stepTimeS,
    delay: 1000 * reaction.commandDelayS,
    brake: 1000 * reaction.tauBrakeS,
    limit: reaction.accelLimitMmPerS2 ?? NO_LIMIT,
    speed: (top * percent) / 100,
    top,
    ...(fitting && sensor?.mountMm ? lineSpot(2 * footprintRadius(fitting.heightMm)) : {}),
  };
}

/** A spot sees a line when its middle is on it, half covered: as much overlap as the spot is wide. */
const lineSpot = (spot: number) => ({ spot, overlap: spot });

/** The address of a calculation with numbers put in; what is no number is left to be typed. */
export function workingPath(sheet: string, numbers: Readonly<Record<string, number | null>>): string {
  const words = Object.entries(numbers).flatMap(([key, value]) =>
    value !== null && Number.isFinite(value) ? [`${key}=${formatNumber(value, 2).replace('−', '-')}`] : [],
  );
  return `/workings/${sheet}?${words.join('&')}`;
}
