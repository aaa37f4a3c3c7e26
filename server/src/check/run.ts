import { check } from './main.ts';

try {
  process.exitCode = await check(process.argv.slice(2));
} catch (error) {
  // A slip of the program is no verdict about a script.
  process.stderr.write(`${(error as Error).stack ?? String(error)}\n`);
  process.exitCode = 2;
}
