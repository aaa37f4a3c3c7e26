import { spawn, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';
import { join } from 'node:path';
import { bundled } from '../program.ts';
import type { StandInConfig } from './standInRobot.ts';

/** The program to start: its bundle, or through tsx in the sources. */
function standInProgram(): string[] {
  const built = bundled('standIn', import.meta.dirname);
  return built ? [built] : ['--import', 'tsx', join(import.meta.dirname, 'standIn.ts')];
}

/** The place of one stand-in robot in the process that all of them share. */
export interface Seat {
  write: (line: string) => void;
  isThere: () => boolean;
  leave: () => void;
}

interface Guest {
  hear: (line: string) => void;
  gone: () => void;
}

/** One process for all stand-ins, started with the first and ended with the last of them. */
export class Hall {
  private child: ChildProcess | null = null;
  private readonly guests = new Map<number, Guest>();
  private next = 1;

  /** Seats a robot. `hear` gets each line that it says; `gone` is told once when it ends without having been asked to. */
  seat(config: StandInConfig, guest: Guest): Seat {
    const child = (this.child ??= this.start());
    const number = this.next++;
    this.guests.set(number, guest);
    const write = (line: string) => {
      if (this.guests.get(number) === guest) child.stdin?.write(`${number}\t${line}\n`);
    };
    write(JSON.stringify(config));
    return {
      write,
      isThere: () => this.guests.get(number) === guest,
      leave: () => {
        write('');
        this.guests.delete(number);
        if (this.guests.size === 0) this.end();
      },
    };
  }

  /** Ends the process, if it runs. */
  end(): void {
    const { child } = this;
    this.child = null;
    child?.kill();
  }

  private start(): ChildProcess {
    const child = spawn(process.execPath, standInProgram(), { stdio: ['pipe', 'pipe', 'inherit'] });
    child.stdin.on('error', () => {});
    createInterface({ input: child.stdout }).on('line', (text) => {
      const tab = text.indexOf('\t');
      this.guests.get(Number(text.slice(0, tab)))?.hear(text.slice(tab + 1));
    });
    child.on('exit', () => {
      // Another may have been started meanwhile: its guests have other numbers, and hear nothing of this.
      if (this.child !== child) return;
      this.child = null;
      for (const [number, guest] of [...this.guests]) {
        this.guests.delete(number);
        guest.gone();
      }
    });
    return child;
  }
}
