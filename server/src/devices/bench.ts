import { readFromRobot, writeToRobot, type FromRobot, type Hand, type ToRobot } from '@vigilum/core/formats';
import {
  asReading,
  fittingOn,
  sensorOf,
  type Kit,
  type Sample,
  type RobotBuild,
} from '@vigilum/core/sensing';
import { Hall, type Seat } from './hall.ts';
import type { StandInConfig } from './standInRobot.ts';

/** A look as it came in. */
export interface BenchReading {
  socket: string;
  atMs: number;
  value: Sample;
}

/** What a listener at the bench hears: readings, or that the robot went silent. */
export type BenchEvent = ({ is: 'reading' } & BenchReading) | { is: 'gone'; says: string };
export type BenchListener = (event: BenchEvent) => void;

interface Plugged {
  seat: Seat;
  config: string;
  streaming: Map<string, number>;
  idle: NodeJS.Timeout | null;
  /** Answers awaited, in the order the commands were sent. */
  awaiting: ((answer: FromRobot) => void)[];
}

/** What lines from a real device came to. */
export interface Fed {
  readings: number;
  refused: number;
  /** The first line that was not understood. */
  firstRefused: string | null;
}

/** How long a robot without listeners is kept. */
const IDLE_MS = 20_000;
/** A process that has just been started on a busy machine needs some seconds. */
const ANSWER_MS = 10_000;
/** While a real device speaks for a robot, its stand-in is not heard. */
const REAL_MS = 3_000;

/** The bench with its robots: stand-ins, in one process while somebody looks, and real devices that send lines. */
export class Bench {
  private readonly hall = new Hall();
  private readonly plugged = new Map<number, Plugged>();
  private readonly listeners = new Map<number, Map<BenchListener, Set<string>>>();
  private readonly heardReal = new Map<number, number>();
  /** What hands last did to each stand-in, by what was done, so that a new start finds the room as it was left. */
  private readonly left = new Map<number, Map<string, Hand>>();

  /** Listens to sockets of a robot; a stand-in whose build changed is started anew. Returns what ends it. */
  listen(
    robotId: number,
    config: StandInConfig | null,
    sockets: readonly string[],
    listener: BenchListener,
  ): () => void {
    // Plugging in anew tells those who listened so far that the robot is gone; the new listener comes after.
    const robot = config ? this.plug(robotId, config) : null;
    const heard = this.listeners.get(robotId) ?? new Map<BenchListener, Set<string>>();
    this.listeners.set(robotId, heard.set(listener, new Set(sockets)));
    if (robot) for (const socket of sockets) this.stream(robot, socket, 1);
    return () => {
      heard.delete(listener);
      if (!robot?.seat.isThere()) return;
      for (const socket of sockets) this.stream(robot, socket, -1);
      if (heard.size === 0) this.endLater(robotId, robot);
    };
  }

  /** Does with a stand-in what a hand would do; resolves with its answer. */
  async hand(robotId: number, config: StandInConfig, hand: Hand): Promise<FromRobot> {
    const robot = this.plug(robotId, config);
    const answer = await this.ask(robot, { is: 'hand', hand });
    if (answer.is === 'ok') this.remember(robotId, hand);
    // A hand alone keeps no robot running.
    if (!this.listeners.get(robotId)?.size) this.endLater(robotId, robot);
    return answer;
  }

  /** Takes lines of the protocol from a real device. The kit's no-reading codes become no reading. */
  feed(robotId: number, { kit, build }: { kit: Kit; build: RobotBuild }, lines: readonly string[]): Fed {
    const fed: Fed = { readings: 0, refused: 0, firstRefused: null };
    for (const line of lines) {
      if (line.trim() === '') continue;
      const message = readFromRobot(line);
      if (!message) {
        fed.refused++;
        fed.firstRefused ??= line.slice(0, 80);
      } else if (message.is === 'reading') {
        fed.readings++;
        const fitting = fittingOn(build, message.socket);
        const mode = fitting && sensorOf(kit, fitting);
        const value =
          typeof message.value === 'number' && mode ? asReading(message.value, mode) : message.value;
        this.deliver(robotId, { socket: fitting?.socket ?? message.socket, atMs: message.atMs, value });
      }
    }
    if (fed.readings > 0) this.heardReal.set(robotId, performance.now());
    return fed;
  }

  /** Whether a real device has spoken for a robot just now. */
  isReal(robotId: number): boolean {
    return performance.now() - (this.heardReal.get(robotId) ?? -Infinity) < REAL_MS;
  }

  /** Unplugs a robot whose stand-in is another by now, so that the next look starts it with its new build. */
  follow(robotId: number, config: StandInConfig | null): void {
    const robot = this.plugged.get(robotId);
    if (robot && robot.config !== JSON.stringify(config)) this.unplug(robotId, robot);
  }

  /** Whether somebody looks at a robot here, or a real device or a stand-in speaks for it here. */
  isUsed(robotId: number): boolean {
    return (this.listeners.get(robotId)?.size ?? 0) > 0 || this.plugged.has(robotId) || this.isReal(robotId);
  }

  close(): void {
    for (const [id, robot] of [...this.plugged]) this.unplug(id, robot);
    this.hall.end();
  }

  private remember(robotId: number, hand: Hand): void {
    let left = this.left.get(robotId);
    if (!left) this.left.set(robotId, (left = new Map<string, Hand>()));
    // A drag or a turn is over when it is over; the rest stays as it was put.
    if (hand.put === 'drag' || hand.put === 'turn') return;
    const place = ['over', 'air', 'paper', 'at'].includes(hand.put)
      ? 'place'
      : hand.put === 'release'
        ? 'press'
        : hand.put;
    left.set(place, hand);
  }

  private plug(robotId: number, config: StandInConfig): Plugged {
    const wanted = JSON.stringify(config);
    const known = this.plugged.get(robotId);
    if (known && known.config === wanted && known.seat.isThere()) {
      if (known.idle) clearTimeout(known.idle);
      known.idle = null;
      return known;
    }
    if (known) this.unplug(robotId, known);
    const robot: Plugged = {
      seat: this.hall.seat(config, {
        hear: (line) => this.hear(robotId, robot, line),
        gone: () => this.lost(robotId, robot),
      }),
      config: wanted,
      streaming: new Map(),
      idle: null,
      awaiting: [],
    };
    this.plugged.set(robotId, robot);
    for (const hand of this.left.get(robotId)?.values() ?? []) this.send(robot, { is: 'hand', hand });
    return robot;
  }

  /** Ends a robot that nobody listens to, unless somebody does in time. */
  private endLater(robotId: number, robot: Plugged): void {
    if (robot.idle) clearTimeout(robot.idle);
    robot.idle = setTimeout(() => this.unplug(robotId, robot), IDLE_MS);
    robot.idle.unref();
  }

  private unplug(robotId: number, robot: Plugged): void {
    if (robot.idle) clearTimeout(robot.idle);
    robot.seat.leave();
    this.lost(robotId, robot);
  }

  /** Tells everybody who listened or waits that a robot is not there any more. */
  private lost(robotId: number, robot: Plugged): void {
    if (this.plugged.get(robotId) === robot) {
      this.plugged.delete(robotId);
      this.tell(robotId, { is: 'gone', says: 'The robot was unplugged.' });
    }
    for (const answer of robot.awaiting.splice(0)) answer({ is: 'error', says: 'the robot was unplugged' });
  }

  /** Counts who listens to a socket; the first starts the stream, the last ends it. */
  private stream(robot: Plugged, socket: string, by: 1 | -1): void {
    const before = robot.streaming.get(socket) ?? 0;
    robot.streaming.set(socket, before + by);
    if (before === 0 && by === 1) this.send(robot, { is: 'stream', socket, on: true });
    if (before === 1 && by === -1) this.send(robot, { is: 'stream', socket, on: false });
  }

  private hear(robotId: number, robot: Plugged, line: string): void {
    const message = readFromRobot(line);
    if (!message) return;
    if (message.is === 'reading') {
      if (!this.isReal(robotId)) this.deliver(robotId, message);
    } else if (message.is === 'ok' || message.is === 'error') {
      robot.awaiting.shift()?.(message);
    }
  }

  private deliver(robotId: number, { socket, atMs, value }: BenchReading): void {
    for (const [listener, sockets] of this.listeners.get(robotId) ?? [])
      if (sockets.has(socket)) listener({ is: 'reading', socket, atMs, value });
  }

  private tell(robotId: number, event: BenchEvent): void {
    for (const listener of [...(this.listeners.get(robotId)?.keys() ?? [])]) listener(event);
  }

  private send(robot: Plugged, message: ToRobot): void {
    void this.ask(robot, message);
  }

  private ask(robot: Plugged, message: ToRobot): Promise<FromRobot> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => {
        robot.awaiting = robot.awaiting.filter((waiting) => waiting !== answer);
        resolve({ is: 'error', says: 'the robot did not answer' });
      }, ANSWER_MS);
      const answer = (reply: FromRobot) => {
        clearTimeout(timer);
        resolve(reply);
      };
      robot.awaiting.push(answer);
      robot.seat.write(writeToRobot(message));
    });
  }
}
