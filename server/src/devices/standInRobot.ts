import { surfacesUnder, type Course, type Surface } from '@vigilum/core/course';
import { PROTOCOL, readToRobot, writeFromRobot, type FromRobot } from '@vigilum/core/formats';
import { pointOnRobot, type Pose } from '@vigilum/core/motion';
import {
  sensorOf,
  type FittedSensor,
  type Fitting,
  type Kit,
  type Sample,
  type RobotBuild,
} from '@vigilum/core/sensing';
import {
  ambientLeak,
  footprintRadius,
  headingAfter,
  heightFactor,
  nameColour,
  Noise,
  quantise,
  readBeacon,
  readEcho,
  readProximity,
  readRgb,
  surfaceColour,
} from '@vigilum/core/sim';
import { convert } from '@vigilum/core/quantity';
import { Hands } from './hands.ts';

/** How one robot's sensors differ from what its kit says, and the light of its room. */
export interface StandInCharacter {
  gain: number;
  /** Scatter over dark and over light floor, reading points. */
  darkSd: number;
  lightSd: number;
  /** Room light, 0–100. */
  roomLight: number;
  /** Creep of the heading at rest, degrees per second. */
  headingDrift?: number;
  /** How long its distances read: 1.02 is 2 % too long. */
  soundScale?: number;
  /** A bumper whose contact bounces. */
  bouncing?: boolean;
}

export interface StandInConfig {
  name: string;
  kit: Kit;
  build: RobotBuild;
  character: StandInCharacter;
  /** Surfaces of the room that a hand can put the sensor over. */
  surfaces: Surface[];
  /** The mat on which it stands. */
  course: Course;
  seed: number;
}

/** White paper, moved to and fro under the sensor. */
const PAPER = 0.9;
const SWEEP_MS = 1400;
/** How much of the light a hand in front sends back. */
const HAND = 0.55;
const NOTHING: Surface = { name: 'nothing', reflectance: 0 };

/** A robot that is not there: answers protocol lines and gives readings from the simulator's own sensor models. */
export class StandInRobot {
  private readonly config: StandInConfig;
  private readonly noise: Noise;
  private readonly hands: Hands;
  private readonly streaming = new Map<string, number>();
  private clock = 0;

  constructor(config: StandInConfig) {
    this.config = config;
    this.noise = new Noise(config.seed);
    this.hands = new Hands(config.build, config.course, config.surfaces);
  }

  /** Answers one line from the host with any number of lines. */
  answer(line: string, nowMs = this.clock): string[] {
    const message = readToRobot(line);
    const reply = (...messages: FromRobot[]) => messages.map(writeFromRobot);
    if (!message) return reply({ is: 'error', says: 'not understood' });
    switch (message.is) {
      case 'hello':
        return reply({ is: 'hello', protocol: PROTOCOL, robot: this.config.name });
      case 'sockets':
        return reply(...this.sockets(), { is: 'ok', command: 'sockets' });
      case 'stream': {
        if (!this.config.kit.sockets.some((s) => s.name === message.socket)) {
          return reply({ is: 'error', says: `no socket ${message.socket}` });
        }
        if (message.on) this.streaming.set(message.socket, 0);
        else this.streaming.delete(message.socket);
        return reply({ is: 'ok', command: 'stream' });
      }
      case 'hand': {
        const wrong = this.hands.take(message.hand, nowMs);
        return reply(wrong ? { is: 'error', says: wrong } : { is: 'ok', command: 'hand' });
      }
    }
  }

  /** Readings that fall due up to `nowMs` since power-up. */
  due(nowMs: number): string[] {
    this.clock = nowMs;
    const lines: string[] = [];
    for (const [socket, next] of this.streaming) {
      if (nowMs < next) continue;
      const fitted = this.fittedOn(socket);
      // Late timers give one reading, not a burst of old ones.
      this.streaming.set(socket, nowMs + (fitted?.sensor.samplePeriodMs ?? 100));
      const value = fitted ? this.look(fitted, nowMs) : this.wheelOn(socket, nowMs);
      lines.push(writeFromRobot({ is: 'reading', atMs: Math.round(nowMs), socket, value }));
    }
    return lines;
  }

  private sockets(): FromRobot[] {
    return this.config.kit.sockets.map(({ name, takes, drives }): FromRobot => {
      const fitted = this.fittedOn(name);
      if (fitted) {
        const { kind, unit, samplePeriodMs } = fitted.sensor;
        return { is: 'socket', socket: name, kind, unit, periodMs: samplePeriodMs };
      }
      return takes === 'motor' && drives
        ? { is: 'socket', socket: name, kind: 'wheel', unit: 'deg', periodMs: 100 }
        : { is: 'socket', socket: name, kind: 'empty', unit: '', periodMs: 0 };
    });
  }

  private fittedOn(socket: string): { fitting: Fitting; sensor: FittedSensor } | null {
    const fitting = this.config.build.fittings.find((f) => f.socket === socket);
    const sensor = fitting && sensorOf(this.config.kit, fitting);
    return fitting && sensor ? { fitting, sensor } : null;
  }

  private wheelOn(socket: string, nowMs: number): number | null {
    const drives = this.config.kit.sockets.find(({ name }) => name === socket)?.drives ?? '';
    const turned = this.hands.wheelDegrees(nowMs);
    return drives.includes('left')
      ? Math.round(turned.left)
      : drives.includes('right')
        ? Math.round(turned.right)
        : null;
  }

  private look({ fitting, sensor }: { fitting: Fitting; sensor: FittedSensor }, nowMs: number): Sample {
    const { character, kit } = this.config;
    const room = this.hands.roomLight ?? character.roomLight;
    const height = fitting.heightMm + this.hands.raisedMm;
    const normal = () => this.noise.normal();
    switch (sensor.kind) {
      case 'light': {
        const reflectance = this.under(fitting, height, nowMs).reduce(
          (sum, { surface, share }) => sum + share * surface.reflectance,
          0,
        );
        const clean = 100 * character.gain * heightFactor(height) * reflectance + ambientLeak(height, room);
        const sd =
          character.darkSd +
          (character.lightSd - character.darkSd) * Math.min(1, Math.max(0, (reflectance - 0.2) / 0.56));
        return quantise(clean + sd * normal(), sensor);
      }
      case 'ambient': {
        const open = this.hands.lifted ? 1 : Math.min(1, 0.2 + height / 60);
        return quantise(room * open + normal(), sensor);
      }
      case 'colour':
      case 'rgb': {
        const under = this.under(fitting, height, nowMs);
        const channel = (i: 0 | 1 | 2) =>
          under.reduce((sum, { surface, share }) => sum + share * surfaceColour(surface)[i], 0);
        const full = sensor.kind === 'rgb' ? sensor.max : 100;
        const looks = readRgb([channel(0), channel(1), channel(2)], height, full, [
          normal(),
          normal(),
          normal(),
        ]);
        return sensor.kind === 'rgb'
          ? looks
          : this.hands.lifted
            ? null
            : nameColour(looks, full, sensor.colours ?? []);
      }
      case 'distance': {
        const unit = sensor.unit === 'in' || sensor.unit === 'mm' ? sensor.unit : 'cm';
        const front = this.hands.frontMm;
        const ahead = front === null ? null : convert(front * (character.soundScale ?? 1), 'mm', unit);
        return readEcho(ahead, 0, sensor, { z: normal(), scatter: convert(2, 'mm', unit) });
      }
      case 'proximity':
        return readProximity(this.hands.frontMm, HAND, sensor, 0.6 * normal());
      case 'heading': {
        const model = { driftPerS: character.headingDrift ?? 0, scale: 1 };
        return quantise(headingAfter(model, this.hands.turnedDeg(nowMs), nowMs / 1000), sensor);
      }
      case 'spin':
        return quantise(this.hands.turnRate(nowMs) + (character.headingDrift ?? 0) + 0.4 * normal(), sensor);
      case 'touch': {
        const bounces =
          character.bouncing === true && this.hands.sincePress(nowMs) < 35 && this.noise.uniform() < 0.5;
        return this.hands.pressed !== bounces ? (kit ? sensor.max : 1) : sensor.min;
      }
      case 'beacon':
        return readBeacon(this.hands.beaconDeg, sensor, 1.5 * normal());
      case 'wheel':
        // Wheels are read at the motors.
        return null;
    }
  }

  /** What lies under a downward sensor, with its share of the spot. */
  private under(
    { aheadMm, rightMm }: Fitting,
    heightMm: number,
    nowMs: number,
  ): { surface: Surface; share: number }[] {
    const { floor } = this.hands;
    if (floor.is === 'air') return [{ surface: NOTHING, share: 1 }];
    if (floor.is === 'surface') return [{ surface: floor.surface, share: 1 }];
    if (floor.is === 'paper') {
      // The paper slides in and out: half the time it lies under the sensor.
      const phase = (nowMs % SWEEP_MS) / SWEEP_MS;
      const share = Math.min(1, Math.max(0, 1.5 * Math.sin(2 * Math.PI * phase) + 0.5));
      return [
        { surface: { name: 'paper', reflectance: PAPER }, share },
        { surface: NOTHING, share: 1 - share },
      ];
    }
    const pose: Pose = this.hands.pose(nowMs);
    const spot = pointOnRobot(pose, aheadMm, rightMm);
    return surfacesUnder(this.config.course, spot.xMm, spot.yMm, footprintRadius(heightMm));
  }
}
