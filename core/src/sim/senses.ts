import {
  lightAt,
  lightField,
  surfaceIndexAt,
  surfaceMap,
  type Course,
  type Surface,
} from '../course/index.ts';
import { convert, degrees, radians, type Unit, sin, cos, atan2 } from '../quantity/index.ts';
import { inBase, type Rgb } from '../sensing/index.ts';
import { nameColour, readRgb, surfaceColour } from './colourModel.ts';
import type { Outline } from './contact.ts';
import { headingAfter } from './headingModel.ts';
import { footprintRadius, quantise, scatterAt } from './lightModel.ts';
import { readBeacon, readProximity } from './proximityModel.ts';
import type { Noise } from './random.ts';
import type { Circumstances, SimSensor } from './setup.ts';
import { readEcho } from './soundModel.ts';
import type { World } from './world.ts';

/** What a sensor may know of the robot that carries it. Angles in radians, speeds in mm/s. */
export interface Carrier {
  readonly timeMs: number;
  readonly x: number;
  readonly y: number;
  readonly theta: number;
  /** Of `theta`. */
  readonly sine: number;
  readonly cosine: number;
  readonly turnRate: number;
  readonly headingZero: number;
  /** When the heading was last zeroed, ms. */
  readonly headingZeroMs: number;
  /** Where the turret truly points, degrees. */
  turretNow(): number;
}

/** Takes one look: the reading in base units (mm, deg, %), NaN for none. */
export type Sampler = () => number;

/** Half angle of a sound cone and of an infrared beam, degrees. */
export const CONE_DEG = 14;
const BEAM_DEG = 8;
/** Infrared comes back from slanted things as well, weaker by the cosine (Lambert 1760), up to here, degrees. */
const BEAM_SLANT_DEG = 75;
/** A thing nearer than this to a sensor's face covers it, mm. */
const COVERED_MM = 1;
/** A beacon's strength halves at about this distance, mm. */
const BEACON_MM = 700;
/** How far down the floor lies below a table, mm. */
const TABLE_MM = 720;
/** What lies in the air beyond a drop. */
const NOTHING: Surface = { name: 'nothing', reflectance: 0, colour: [0, 0, 0] };

/** Places of equal share in a spot of radius 1, for colours. */
const spot: [number, number][] = [[0, 0]];
for (const [count, radius] of [
  [6, 0.47],
  [12, 0.84],
] as const) {
  for (let k = 0; k < count; k++) {
    const angle = (2 * Math.PI * k) / count;
    spot.push([radius * cos(angle), radius * sin(angle)]);
  }
}

interface Around {
  course: Course;
  world: World;
  outline: Outline;
  circumstances: Circumstances;
  noise: Noise;
  carrier: Carrier;
  /** Numbers of a sensor that gives several. */
  items: Float64Array;
}

/** Makes the look of one sensor; what does not change from look to look is worked out here, once. */
export function samplerOf(sensor: SimSensor, around: Around): Sampler {
  const { course, world, outline, circumstances, noise, carrier, items } = around;
  const loud = circumstances.noise ?? 1;
  const { aheadMm, rightMm } = sensor;
  let [x, y, s, c] = [0, 0, 0, 1];
  /** Puts the sensor's place, and the robot's direction, into the four numbers above. */
  const place = () => {
    s = carrier.sine;
    c = carrier.cosine;
    x = carrier.x + aheadMm * s + rightMm * c;
    y = carrier.y + aheadMm * c - rightMm * s;
  };
  /** Turns that direction into the sensor's own. */
  const aim = () => {
    const turned = radians((sensor.facingDeg ?? 0) + (sensor.onTurret ? carrier.turretNow() : 0));
    const bearing = carrier.theta + turned;
    s = sin(bearing);
    c = cos(bearing);
  };
  /** Whether something stands right at the sensor's face, or between it and the robot's middle. */
  const covered = (): boolean => {
    if (world.nearSides.length === 0 && world.nearRounds.length === 0) return false;
    const [rs, rc] = [carrier.sine, carrier.cosine];
    const { ahead } = outline;
    return !world.clear(
      carrier.x + ahead * rs,
      carrier.y + ahead * rc,
      x + COVERED_MM * s,
      y + COVERED_MM * c,
    );
  };
  switch (sensor.kind) {
    case 'light': {
      const { model } = sensor;
      const field = lightField(course, model.footprintRadiusMm);
      return () => {
        place();
        const clean = 100 * model.gain * lightAt(field, x, y) + model.leak + circumstances.lightShift;
        return quantise(clean + loud * scatterAt(model, clean) * noise.normal(), sensor);
      };
    }
    case 'ambient':
      return () =>
        quantise(sensor.level + circumstances.lightShift + loud * sensor.scatter * noise.normal(), sensor);
    case 'colour':
    case 'rgb': {
      const map = surfaceMap(course);
      const looks: Rgb[] = map.surfaces.map(surfaceColour);
      const drop = course.rim === 'drop';
      const radius = footprintRadius(sensor.heightMm);
      const full = sensor.kind === 'rgb' ? sensor.max : 100;
      const nothing = surfaceColour(NOTHING);
      return () => {
        place();
        let [r, g, b] = [0, 0, 0];
        for (const [u, v] of spot) {
          const index = surfaceIndexAt(map, x + radius * u, y + radius * v, drop);
          const look = index === 255 ? nothing : looks[index]!;
          r += look[0];
          g += look[1];
          b += look[2];
        }
        const n = spot.length;
        const scatter = () => loud * noise.normal();
        const seen = readRgb([r / n, g / n, b / n], sensor.heightMm, full, [scatter(), scatter(), scatter()]);
        if (sensor.kind === 'rgb') {
          items.set(seen);
          return (seen[0] + seen[1] + seen[2]) / 3;
        }
        return nameColour(seen, full, sensor.colours) ?? NaN;
      };
    }
    case 'distance': {
      const unit = sensor.unit as Unit;
      const half = radians(CONE_DEG);
      const down = sensor.facingDeg === null;
      const echoes = circumstances.echoes ?? 0;
      return () => {
        place();
        let mm: number | null;
        let oblique = 0;
        if (down)
          mm = course.rim === 'drop' && !world.onMat(x, y) ? sensor.heightMm + TABLE_MM : sensor.heightMm;
        else {
          aim();
          const shut = covered();
          const found = !shut && world.look(x, y, s, c, half);
          mm = shut ? 0 : found ? world.met.mm : null;
          oblique = found ? world.met.obliqueDeg : 0;
          // A neighbour's pulse arrives at any time, mostly before one's own.
          if (echoes > 0 && noise.uniform() < echoes) {
            const nearest = inBase(sensor.min, sensor.unit);
            mm = nearest + noise.uniform() * ((mm ?? inBase(sensor.max, sensor.unit)) - nearest);
            oblique = 0;
          }
        }
        const reading = readEcho(mm === null ? null : convert(mm, 'mm', unit), oblique, sensor, {
          z: loud * noise.normal(),
          scatter: sensor.scatter,
          coneHalfDeg: CONE_DEG,
        });
        return reading === null ? NaN : inBase(reading, sensor.unit);
      };
    }
    case 'proximity': {
      const half = radians(BEAM_DEG);
      return () => {
        place();
        aim();
        const noisy = loud * sensor.scatter * noise.normal();
        if (covered()) return readProximity(0, 1, sensor, noisy);
        const found = world.look(x, y, s, c, half, BEAM_SLANT_DEG);
        const { mm, obliqueDeg, reflectance } = world.met;
        return readProximity(found ? mm : null, reflectance * cos(radians(obliqueDeg)), sensor, noisy);
      };
    }
    case 'beacon':
      return () => {
        place();
        aim();
        items.fill(NaN);
        const { beacon } = course;
        if (!beacon || !world.clear(x, y, beacon.xMm, beacon.yMm)) return NaN;
        const [dx, dy] = [beacon.xMm - x, beacon.yMm - y];
        const deg = degrees(atan2(dx * c - dy * s, dx * s + dy * c));
        const direction = readBeacon(deg, sensor, loud * sensor.scatter * noise.normal());
        if (direction === null) return NaN;
        const strength = 100 / (1 + (Math.hypot(dx, dy) / BEACON_MM) ** 2);
        items[0] = direction;
        items[1] = Math.round(Math.min(100, Math.max(0, strength + loud * noise.normal())));
        return direction;
      };
    case 'touch': {
      const { facingDeg } = sensor;
      if (facingDeg === null) return () => (world.pressed(carrier.timeMs) ? sensor.max : sensor.min);
      const patch = outline.bumper(facingDeg, rightMm);
      return () => {
        s = carrier.sine;
        c = carrier.cosine;
        return outline.meets(world, patch, carrier.x, carrier.y, s, c) ? sensor.max : sensor.min;
      };
    }
    case 'heading': {
      const model = {
        driftPerS: sensor.driftPerS + (circumstances.driftPerS ?? 0),
        scale: circumstances.gyroScale ?? 1,
      };
      return () => {
        const turned = degrees(carrier.theta - carrier.headingZero);
        return quantise(headingAfter(model, turned, (carrier.timeMs - carrier.headingZeroMs) / 1000), sensor);
      };
    }
    case 'spin': {
      const drift = sensor.driftPerS + (circumstances.driftPerS ?? 0);
      const scale = circumstances.gyroScale ?? 1;
      return () => quantise(scale * degrees(carrier.turnRate) + drift, sensor);
    }
  }
}
