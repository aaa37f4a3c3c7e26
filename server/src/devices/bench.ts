import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { join } from 'node:path';
import { readFromRobot, writeToRobot, type FromRobot, type Hand, type ToRobot } from '@vigilum/core/formats';
import type { StandInConfig } from './standInRobot.ts';

/** What a listener at the bench hears: a reading, or that the robot went silent. */
export type BenchEvent = { is: 'reading'; atMs: number; value: number | null } | { is: 'gone'; says: string };

interface Plugged {
  process: ChildProcess;
  config: string;
  listeners: Map<string, Set<(event: BenchEvent) => void>>;
  idle: NodeJS.Timeout | null;
  /** Answers awaited, in the order the commands were sent. */
  awaiting: ((answer: FromRobot) => void)[];
}

/** How long a robot without listeners is kept. */
const IDLE_MS = 20_000;
const ANSWER_MS = 4_000;

/** The program to start: beside the bundle once built, through tsx in the sources. */
function standInProgram(): string[] {
  const built = join(import.meta.dirname, 'standIn.js');
  return existsSync(built) ? [built] : ['--import', 'tsx', join(import.meta.dirname, 'standIn.ts')];
}

/** The bench with its robots: one process each, started when somebody looks and ended when nobody does. */
export class Bench {
  private readonly plugged = new Map<number, Plugged>();

  /** Listens to a socket of a robot; a robot whose build changed is started anew. Returns what ends it. */
  listen(
    robotId: number,
    config: StandInConfig,
    socket: string,
    listener: (event: BenchEvent) => void,
  ): () => void {
    const robot = this.plug(robotId, config);
    let heard = robot.listeners.get(socket);
    if (!heard) robot.listeners.set(socket, (heard = new Set()));
    if (heard.size === 0) this.send(robot, { is: 'stream', socket, on: true });
    heard.add(listener);
    return () => {
      heard.delete(listener);
      if (heard.size === 0 && robot.process.exitCode === null)
        this.send(robot, { is: 'stream', socket, on: false });
      if ([...robot.listeners.values()].every((set) => set.size === 0)) {
        robot.idle = setTimeout(() => this.unplug(robotId, robot), IDLE_MS);
        robot.idle.unref();
      }
    };
  }

  /** Moves what is under the sensor; resolves with the robot's answer. */
  async hand(robotId: number, config: StandInConfig, hand: Hand): Promise<FromRobot> {
    return this.ask(this.plug(robotId, config), { is: 'hand', hand });
  }

  /** Unplugs a robot, so that the next look starts it with its new build. */
  restart(robotId: number): void {
    const robot = this.plugged.get(robotId);
    if (robot) this.unplug(robotId, robot);
  }

  close(): void {
    for (const [id, robot] of this.plugged) this.unplug(id, robot);
  }

  private plug(robotId: number, config: StandInConfig): Plugged {
    const wanted = JSON.stringify(config);
    const known = this.plugged.get(robotId);
    if (known && known.config === wanted && known.process.exitCode === null) {
      if (known.idle) clearTimeout(known.idle);
      known.idle = null;
      return known;
    }
    if (known) this.unplug(robotId, known);
    const child = spawn(process.execPath, [...standInProgram(), wanted], {
      stdio: ['pipe', 'pipe', 'inherit'],
    });
    const robot: Plugged = { process: child, config: wanted, listeners: new Map(), idle: null, awaiting: [] };
    this.plugged.set(robotId, robot);
    child.stdin.on('error', () => {});
    createInterface({ input: child.stdout }).on('line', (line) => this.hear(robot, line));
    child.on('exit', () => {
      if (this.plugged.get(robotId) === robot) this.plugged.delete(robotId);
      this.tell(robot, { is: 'gone', says: 'The robot was unplugged.' });
      for (const answer of robot.awaiting.splice(0)) answer({ is: 'error', says: 'the robot was unplugged' });
    });
    return robot;
  }

  private unplug(robotId: number, robot: Plugged): void {
    if (robot.idle) clearTimeout(robot.idle);
    if (this.plugged.get(robotId) === robot) this.plugged.delete(robotId);
    robot.process.kill();
  }

  private hear(robot: Plugged, line: string): void {
    const message = readFromRobot(line);
    if (!message) return;
    if (message.is === 'reading') {
      for (const listener of robot.listeners.get(message.socket) ?? []) {
        listener({ is: 'reading', atMs: message.atMs, value: message.value });
      }
    } else if (message.is === 'ok' || message.is === 'error') {
      robot.awaiting.shift()?.(message);
    }
  }

  private tell(robot: Plugged, event: BenchEvent): void {
    for (const heard of robot.listeners.values()) for (const listener of heard) listener(event);
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
      robot.process.stdin?.write(`${writeToRobot(message)}\n`);
    });
  }
}
