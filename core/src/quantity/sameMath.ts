/**
 * Sine, cosine, exponential and their kin from +, −, ×, ÷ and √ alone. The language leaves these functions to each engine, and the
 * engines of servers and browsers differ in the last bit of one value in thirty: a run with contacts ends millimetres apart.
 * What is worked out from these is the same everywhere. Methods and coefficients: fdlibm (Sun Microsystems 1993), within 1 ulp.
 */

const PI_2_HIGH = 1.57079632673412561417;
const PI_2_MIDDLE = 6.0771005063039659766e-11;
const PI_2_LOW = 2.02226624879595063154e-21;
const TWO_OVER_PI = 6.36619772367581382433e-1;
/** Beyond this the reduction by quarter turns would lose bits; whole turns are taken away first. */
const FAR = 1e6;

/** Sine of x + y, |x| ≤ π/4, y its tail. */
function kernelSin(x: number, y: number): number {
  const z = x * x;
  const v = z * x;
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x - (z * (0.5 * y - v * r) - y - v * -1.66666666666666324348e-1);
}

/** Cosine of x + y, |x| ≤ π/4, y its tail. */
function kernelCos(x: number, y: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z *
                (-2.75573143513906633035e-7 +
                  z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const half = 0.5 * z;
  const w = 1 - half;
  return w + (1 - w - half + (z * r - x * y));
}

/** Sine of x turned on by so many quarter turns. */
function sineAfter(x: number, quarters: number): number {
  if (!Number.isFinite(x)) return NaN;
  const near = Math.abs(x) > FAR ? x % (2 * Math.PI) : x;
  const n = Math.round(near * TWO_OVER_PI);
  const t = near - n * PI_2_HIGH;
  const w = n * PI_2_MIDDLE;
  const r = t - w;
  const low = n * PI_2_LOW - (t - r - w);
  const y0 = r - low;
  const y1 = r - y0 - low;
  switch ((n + quarters) & 3) {
    case 0:
      return kernelSin(y0, y1);
    case 1:
      return kernelCos(y0, y1);
    case 2:
      return -kernelSin(y0, y1);
    default:
      return -kernelCos(y0, y1);
  }
}

export const sin = (x: number): number => sineAfter(x, 0);
export const cos = (x: number): number => sineAfter(x, 1);
export const tan = (x: number): number => sin(x) / cos(x);

const ATAN_HIGH = [
  4.63647609000806093515e-1,
  7.85398163397448278999e-1,
  9.82793723247329054082e-1,
  Math.PI / 2,
];
const ATAN_LOW = [
  2.26987774529616870924e-17, 3.06161699786838301793e-17, 1.39033110312309984516e-17,
  6.12323399573676603587e-17,
];

/** Arc tangent, radians. */
export function atan(value: number): number {
  if (Number.isNaN(value)) return NaN;
  const a = Math.abs(value);
  if (a < 1e-9) return value;
  let [x, id] = [a, -1];
  if (a > 1e19) return (value < 0 ? -1 : 1) * (Math.PI / 2);
  if (a >= 0.4375) {
    if (a < 0.6875) [x, id] = [(2 * a - 1) / (2 + a), 0];
    else if (a < 1.1875) [x, id] = [(a - 1) / (a + 1), 1];
    else if (a < 2.4375) [x, id] = [(a - 1.5) / (1 + 1.5 * a), 2];
    else [x, id] = [-1 / a, 3];
  }
  const z = x * x;
  const w = z * z;
  const odd =
    z *
    (3.33333333333329318027e-1 +
      w *
        (1.42857142725034663711e-1 +
          w *
            (9.09088713343650656196e-2 +
              w *
                (6.66107313738753120669e-2 +
                  w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
  const even =
    w *
    (-1.99999999998764832476e-1 +
      w *
        (-1.1111110405462355788e-1 +
          w *
            (-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
  const found = id < 0 ? x - x * (odd + even) : ATAN_HIGH[id]! - (x * (odd + even) - ATAN_LOW[id]! - x);
  return value < 0 ? -found : found;
}

/** Angle of the point (x, y), radians, −π to π. */
export function atan2(y: number, x: number): number {
  if (Number.isNaN(x) || Number.isNaN(y)) return NaN;
  // Zeros and infinities are exact in every engine.
  // eslint-disable-next-line no-restricted-properties -- only where every engine is exact
  if (x === 0 || y === 0 || !Number.isFinite(x) || !Number.isFinite(y)) return Math.atan2(y, x);
  const found = atan(Math.abs(y / x));
  const turned = x < 0 ? Math.PI - (found - 1.22464679914735317724e-16) : found;
  return y < 0 ? -turned : turned;
}
export const asin = (x: number): number => atan2(x, Math.sqrt((1 - x) * (1 + x)));
export const acos = (x: number): number => atan2(Math.sqrt((1 - x) * (1 + x)), x);

const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;

const bits = new DataView(new ArrayBuffer(8));
/** 2 to a whole power from −1022 to 1023. */
function powerOfTwo(k: number): number {
  bits.setUint32(0, (k + 1023) << 20);
  bits.setUint32(4, 0);
  return bits.getFloat64(0);
}

export function exp(x: number): number {
  if (Number.isNaN(x)) return NaN;
  if (x > 709.7) return x > 709.782712893384 ? Infinity : exp(x - 1) * Math.E;
  // Smaller than any normal number.
  if (x < -708) return 0;
  const k = Math.round(x * 1.442695040888963387);
  const hi = x - k * LN2_HIGH;
  const lo = k * LN2_LOW;
  const r = hi - lo;
  const t = r * r;
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t *
          (-2.77777777770155933842e-3 +
            t *
              (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
  return (1 - (lo - (r * c) / (2 - c) - hi)) * powerOfTwo(k);
}

export function log(x: number): number {
  if (!(x > 0) || x === Infinity) return x === 0 ? -Infinity : x === Infinity ? Infinity : NaN;
  if (x < 2.3e-308) return log(x * 2 ** 54) - 54 * LN2_HIGH - 54 * LN2_LOW;
  bits.setFloat64(0, x);
  const head = bits.getUint32(0);
  let k = (head >>> 20) - 1023;
  bits.setUint32(0, (head & 0xfffff) | 0x3ff00000);
  let m = bits.getFloat64(0);
  if (m > Math.SQRT2) {
    m /= 2;
    k++;
  }
  const f = m - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const t1 = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
  const t2 =
    z *
    (6.66666666666673513e-1 +
      w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
  const half = 0.5 * f * f;
  return k * LN2_HIGH - (half - (s * (half + t1 + t2) + k * LN2_LOW) - f);
}

/** A positive number to any power. */
export const power = (base: number, exponent: number): number =>
  base === 0 ? (exponent === 0 ? 1 : exponent > 0 ? 0 : Infinity) : exp(exponent * log(base));
