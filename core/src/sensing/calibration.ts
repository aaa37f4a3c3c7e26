import { median } from 'simple-statistics';
import { convert, formatNumber, found, refused, type Outcome, type Unit } from '../quantity/index.ts';
import { summarise, type Reading } from './sampleSet.ts';

/** What the sensor read (mean of a set) where the ruler said `truth`; both in one unit. */
export interface CalibrationPoint {
  truth: number;
  reading: number;
}

/** reading = slope · truth + intercept by least squares. */
export interface Calibration {
  slope: number;
  intercept: number;
  /** Standard errors of both; null under three points. */
  seSlope: number | null;
  seIntercept: number | null;
  /** Residual standard deviation (n − 2); null under three points. */
  residualSd: number | null;
  r2: number;
  /** Reading less line, in the order of the points. */
  residuals: number[];
  worst: { truth: number; residual: number };
  /** Longest stretch of true values within tolerance of the line; null when fewer than two neighbours are. */
  usable: [number, number] | null;
  warnings: string[];
}

/** Sets taken against the ruler as points of one unit, with the scatter of their single looks. */
export function rulerPoints(
  sets: readonly { truth: number | null; values: readonly Reading[] }[],
  from: Unit,
  to: Unit,
): (CalibrationPoint & { sd: number })[] {
  return sets.flatMap(({ truth, values }) => {
    const { mean, sd } = summarise(values);
    return truth === null || mean === null
      ? []
      : [
          {
            truth: convert(truth, from, to),
            reading: convert(mean, from, to),
            sd: convert(sd ?? 0, from, to),
          },
        ];
  });
}

/**
 * A straight line of readings against the ruler (NIST/ITL StRD, Linear Regression, for the check values).
 * `tolerance` is what a reading may stand off the line in the usable range. Refuses fewer than two
 * different true values.
 */
export function calibrate(points: readonly CalibrationPoint[], tolerance: number): Outcome<Calibration> {
  const good = points.filter(({ truth, reading }) => Number.isFinite(truth) && Number.isFinite(reading));
  const n = good.length;
  if (new Set(good.map(({ truth }) => truth)).size < 2)
    return refused('A line needs readings at two different distances.', 'Read at another distance.');
  const meanX = good.reduce((sum, p) => sum + p.truth, 0) / n;
  const meanY = good.reduce((sum, p) => sum + p.reading, 0) / n;
  let [sxx, sxy, syy] = [0, 0, 0];
  for (const { truth, reading } of good) {
    sxx += (truth - meanX) ** 2;
    sxy += (truth - meanX) * (reading - meanY);
    syy += (reading - meanY) ** 2;
  }
  const slope = sxy / sxx;
  const intercept = meanY - slope * meanX;
  const residuals = good.map(({ truth, reading }) => reading - slope * truth - intercept);
  const sse = residuals.reduce((sum, r) => sum + r * r, 0);
  const residualSd = n > 2 ? Math.sqrt(sse / (n - 2)) : null;
  const worstAt = residuals.reduce((w, r, i) => (Math.abs(r) > Math.abs(residuals[w]!) ? i : w), 0);
  return found({
    slope,
    intercept,
    seSlope: residualSd === null ? null : residualSd / Math.sqrt(sxx),
    seIntercept: residualSd === null ? null : residualSd * Math.sqrt(1 / n + meanX ** 2 / sxx),
    residualSd,
    r2: syy === 0 ? 1 : 1 - sse / syy,
    residuals,
    worst: { truth: good[worstAt]!.truth, residual: residuals[worstAt]! },
    usable: usableRange(good, residuals, tolerance),
    warnings: warn(good, residuals, meanX, sxx, tolerance),
  });
}

function usableRange(
  points: readonly CalibrationPoint[],
  residuals: readonly number[],
  tolerance: number,
): [number, number] | null {
  const sorted = points.map((p, i) => ({ truth: p.truth, off: Math.abs(residuals[i]!) }));
  sorted.sort((a, b) => a.truth - b.truth);
  let best: [number, number] | null = null;
  let from: number | null = null;
  for (const { truth, off } of sorted) {
    if (off > tolerance) from = null;
    else {
      from ??= truth;
      if (truth > from && (best === null || truth - from > best[1] - best[0])) best = [from, truth];
    }
  }
  return best;
}

/** What a good-looking line can hide (Anscombe 1973): a bend, one reading that stands off, one that carries it all. */
function warn(
  points: readonly CalibrationPoint[],
  residuals: readonly number[],
  meanX: number,
  sxx: number,
  tolerance: number,
): string[] {
  const n = points.length;
  if (n < 4) return [];
  const warnings: string[] = [];
  const heavy = points.findIndex(({ truth }) => 1 / n + (truth - meanX) ** 2 / sxx > 0.9);
  if (heavy >= 0)
    return [
      `The line hangs on the one reading at ${formatNumber(points[heavy]!.truth)}: read at more distances.`,
    ];
  const typical = 1.4826 * median(residuals.map(Math.abs));
  const worst = residuals.reduce((w, r, i) => (Math.abs(r) > Math.abs(residuals[w]!) ? i : w), 0);
  const off = Math.abs(residuals[worst]!);
  const square = points.map(({ truth }) => (truth - meanX) ** 2);
  const meanSquare = square.reduce((a, b) => a + b, 0) / n;
  let [ss, sr, rr] = [0, 0, 0];
  square.forEach((s, i) => {
    ss += (s - meanSquare) ** 2;
    sr += (s - meanSquare) * residuals[i]!;
    rr += residuals[i]! ** 2;
  });
  if (off <= tolerance) return warnings;
  if (ss > 0 && rr > 0 && Math.abs(sr) / Math.sqrt(ss * rr) > 0.9)
    warnings.push('The readings bend away from the line: use it only over a short stretch.');
  else if (off > 4 * typical)
    warnings.push(
      `The reading at ${formatNumber(points[worst]!.truth)} stands off the others: read it again.`,
    );
  return warnings;
}

/** The true value for a reading, from the line. */
export const trueValue = ({ slope, intercept }: Calibration, reading: number): number =>
  (reading - intercept) / slope;

/** What the line says about the sensor's scale and offset, in sentences. */
export function judgeCalibration(line: Calibration, unit: string): { says: string; mend: string }[] {
  const told: { says: string; mend: string }[] = [];
  const beyond = (value: number, se: number | null, least: number) =>
    Math.abs(value) > least && (se === null || Math.abs(value) > 3 * se);
  if (line.slope <= 0)
    return [
      { says: 'The reading does not grow with distance.', mend: 'Check what stands before the sensor.' },
    ];
  if (beyond(line.slope - 1, line.seSlope, 0.01))
    told.push({
      says: `It reads ${formatNumber(Math.abs(line.slope - 1) * 100)} % too ${line.slope > 1 ? 'long' : 'short'}.`,
      mend: `Divide its readings by ${formatNumber(line.slope, 3)}.`,
    });
  const least = unit === 'mm' ? 2 : unit === 'in' ? 0.1 : 0.2;
  if (beyond(line.intercept, line.seIntercept, least))
    told.push({
      says: `It adds ${formatNumber(line.intercept, 2)} ${unit} to every reading.`,
      mend: `Take ${formatNumber(line.intercept, 2)} ${unit} off, or measure from another edge of the robot.`,
    });
  if (told.length === 0)
    told.push({ says: 'Scale and offset are right within what was measured.', mend: '' });
  return told;
}

/** Slope of a line through the origin, Σxy/Σx² (NIST/ITL StRD, NoInt1): degrees read per degree turned. */
export function scaleThroughOrigin(points: readonly CalibrationPoint[]): Outcome<number> {
  const sxx = points.reduce((sum, p) => sum + p.truth ** 2, 0);
  if (!(sxx > 0)) return refused('No turn was measured.', 'Turn the robot by a known angle and read again.');
  return found(points.reduce((sum, p) => sum + p.truth * p.reading, 0) / sxx);
}

/**
 * How far a single look may stand off the line near a true value, in the points' unit: the larger residual of the two nearest
 * points, or three standard errors of the line itself there (s·√(1/n + (x − x̄)²/Sxx), Draper & Smith 1998, section 3.1) where that
 * is more, and three times the scatter `sd` of single looks at the nearest; null under three points.
 */
export function errorNear(
  line: Calibration,
  points: readonly (CalibrationPoint & { sd: number })[],
  truth: number,
): number | null {
  if (line.residualSd === null) return null;
  const near = points
    .map((point, i) => ({ ...point, residual: Math.abs(line.residuals[i]!) }))
    .sort((a, b) => Math.abs(a.truth - truth) - Math.abs(b.truth - truth));
  const meanX = points.reduce((sum, point) => sum + point.truth, 0) / points.length;
  const sxx = points.reduce((sum, point) => sum + (point.truth - meanX) ** 2, 0);
  const seLine = line.residualSd * Math.sqrt(1 / points.length + (truth - meanX) ** 2 / sxx);
  return Math.max(near[0]!.residual, near[1]!.residual, 3 * seLine) + 3 * near[0]!.sd;
}

/** A turn scale that is off by no more than this share is right within what a hand can measure. */
const WORTH_MENDING = 0.02;

/** What a heading makes of known turns: degrees read per degree turned, and whether that is worth correcting for. */
export function judgeTurns(
  turns: readonly CalibrationPoint[],
): Outcome<{ scale: number; right: boolean; says: string; mend: string }> {
  const fit = scaleThroughOrigin(turns);
  if (!fit.ok) return fit;
  const scale = fit.value;
  const off = scale - 1;
  return found(
    Math.abs(off) > WORTH_MENDING
      ? {
          scale,
          right: false,
          says: `It reads ${formatNumber(100 * Math.abs(off))} % too ${off > 0 ? 'much' : 'little'}.`,
          mend: `For a true quarter turn wait for ${formatNumber(90 * scale)}°.`,
        }
      : { scale, right: true, says: 'Its scale is right within what was measured.', mend: '' },
  );
}
