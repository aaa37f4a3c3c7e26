import { PROTOCOL, readToRobot, writeFromRobot, type FromRobot, type Hand } from '@vigilum/core/formats';
import { sensorOf, type Fitting, type Kit, type RobotBuild, type SensorSpec } from '@vigilum/core/sensing';
import { ambientLeak, heightFactor, Noise, quantise } from '@vigilum/core/sim';

/** How one robot's floor sensor differs from what its kit says, and the light of its room. */
export interface StandInCharacter {
  gain: number;
  /** Scatter over dark and over light floor, reading points. */
  darkSd: number;
  lightSd: number;
  /** Room light, 0–100. */
  roomLight: number;
}

export interface StandInConfig {
  name: string;
  kit: Kit;
  build: RobotBuild;
  character: StandInCharacter;
  /** Surfaces of the room that a hand can put the sensor over. */
  surfaces: { name: string; reflectance: number }[];
  seed: number;
}

/** White paper, moved to and fro under the sensor. */
const PAPER = 0.9;
const SWEEP_MS = 1400;

/** A robot that is not there: answers protocol lines and gives readings from the simulator's own sensor model. */
export class StandInRobot {
  private readonly config: StandInConfig;
  private readonly noise: Noise;
  private readonly streaming = new Map<string, number>();
  private hand: Hand;

  constructor(config: StandInConfig) {
    this.config = config;
    this.noise = new Noise(config.seed);
    this.hand = { put: 'over', surface: config.surfaces.at(-1)?.name ?? 'floor' };
  }

  /** Answers one line from the host with any number of lines. */
  answer(line: string): string[] {
    const message = readToRobot(line);
    const reply = (...messages: FromRobot[]) => messages.map(writeFromRobot);
    if (!message) return reply({ is: 'error', says: 'not understood' });
    switch (message.is) {
      case 'hello':
        return reply({ is: 'hello', protocol: PROTOCOL, robot: this.config.name });
      case 'sockets':
        return reply(...this.sockets(), { is: 'ok', command: 'sockets' });
      case 'stream': {
        if (!this.config.kit.sockets.some((s) => s.name === message.socket && s.takes === 'sensor')) {
          return reply({ is: 'error', says: `no socket ${message.socket}` });
        }
        if (message.on) this.streaming.set(message.socket, 0);
        else this.streaming.delete(message.socket);
        return reply({ is: 'ok', command: 'stream' });
      }
      case 'hand': {
        const { hand } = message;
        if (hand.put === 'over' && !this.config.surfaces.some((s) => s.name === hand.surface)) {
          return reply({ is: 'error', says: `no surface ${hand.surface}` });
        }
        this.hand = hand;
        return reply({ is: 'ok', command: 'hand' });
      }
    }
  }

  /** Readings that fall due up to `nowMs` since power-up. */
  due(nowMs: number): string[] {
    const lines: string[] = [];
    for (const [socket, next] of this.streaming) {
      if (nowMs < next) continue;
      const fitted = this.fittedOn(socket);
      // Late timers give one reading, not a burst of old ones.
      this.streaming.set(socket, nowMs + (fitted?.spec.samplePeriodMs ?? 100));
      lines.push(
        writeFromRobot({ is: 'reading', atMs: Math.round(nowMs), socket, value: this.look(socket, nowMs) }),
      );
    }
    return lines;
  }

  private sockets(): FromRobot[] {
    return this.config.kit.sockets
      .filter((socket) => socket.takes === 'sensor')
      .map(({ name }): FromRobot => {
        const fitted = this.fittedOn(name);
        return fitted
          ? {
              is: 'socket',
              socket: name,
              kind: fitted.fitting.mode,
              unit: fitted.spec.unit,
              periodMs: fitted.spec.samplePeriodMs,
            }
          : { is: 'socket', socket: name, kind: 'empty', unit: '', periodMs: 0 };
      });
  }

  private fittedOn(socket: string): { fitting: Fitting; spec: SensorSpec } | null {
    const fitting = this.config.build.fittings.find((f) => f.socket === socket);
    const spec = fitting && sensorOf(this.config.kit, fitting);
    return fitting && spec ? { fitting, spec } : null;
  }

  private look(socket: string, nowMs: number): number | null {
    const fitted = this.fittedOn(socket);
    if (!fitted) return null;
    const { fitting, spec } = fitted;
    switch (fitting.mode) {
      case 'light':
        return this.lookDown(fitting, spec, nowMs);
      case 'touch':
        return 0;
      default:
        // Nothing stands before its other sensors.
        return null;
    }
  }

  private lookDown({ heightMm }: Fitting, spec: SensorSpec, nowMs: number): number {
    const { gain, darkSd, lightSd, roomLight } = this.config.character;
    const reflectance = this.underSensor(nowMs);
    const clean = 100 * gain * heightFactor(heightMm) * reflectance + ambientLeak(heightMm, roomLight);
    const sd = darkSd + (lightSd - darkSd) * Math.min(1, Math.max(0, (reflectance - 0.2) / 0.56));
    return quantise(clean + sd * this.noise.normal(), spec);
  }

  private underSensor(nowMs: number): number {
    const { hand } = this;
    if (hand.put === 'air') return 0;
    if (hand.put === 'over') return this.config.surfaces.find((s) => s.name === hand.surface)!.reflectance;
    // The paper slides in and out: half the time it lies under the sensor.
    const phase = (nowMs % SWEEP_MS) / SWEEP_MS;
    return PAPER * Math.min(1, Math.max(0, 1.5 * Math.sin(2 * Math.PI * phase) + 0.5));
  }
}
