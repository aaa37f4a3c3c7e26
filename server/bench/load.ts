// npm run bench:load: the same hour with 10 to 120 tablets, 4 boards and a class check every 30 s, on one server with the embedded database
// and on two servers and two workers that share PostgreSQL, all on this one machine. Prints a table; judges nothing.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

const { values } = parseArgs({
  options: {
    seconds: { type: 'string', default: '60' },
    tablets: { type: 'string', default: '10,60,120' },
  },
});

/** What an hour prints with --json. */
interface Hour {
  perSecond: number;
  requests: (number | null)[];
  saves: (number | null)[];
  toBoard: (number | null)[];
  checks: (number | null)[];
  stall: number;
  again: number;
  memory: number;
  checked: number;
  lost: number;
  limited: Record<'429' | '503', number>;
}

const root = join(import.meta.dirname, '../..');
const kinds = {
  'one, PGlite': [],
  'two and two workers, PostgreSQL': ['--postgres', '--servers', '2', '--workers', '2'],
};
const ms = (times: (number | null)[]) => times.map((time) => time ?? '–').join(' / ');
console.log(
  '| servers | tablets | requests/s | request, ms | save, ms | to a board, ms | class check, ms | stall, ms | begun again | memory, MB | writes, lost | 429, 503 |',
);
console.log('| --- | --: | --: | --: | --: | --: | --: | --: | --: | --: | --: | --: |');
for (const tablets of values.tablets.split(','))
  for (const [name, more] of Object.entries(kinds)) {
    const run = spawnSync(
      process.execPath,
      [
        '--import',
        'tsx',
        'server/bench/hour.ts',
        '--json',
        ...['--boards', '4', '--check', '30', '--tablets', tablets, '--seconds', values.seconds],
        ...more,
      ],
      { cwd: root, encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] },
    );
    const last = run.stdout.trim().split('\n').at(-1) ?? '';
    if (!last.startsWith('{')) {
      console.log(`| ${name} | ${tablets} | did not end: ${last.slice(0, 80)} |`);
      continue;
    }
    const hour = JSON.parse(last) as Hour;
    console.log(
      `| ${name} | ${tablets} | ${hour.perSecond} | ${ms(hour.requests)} | ${ms(hour.saves)} | ${ms(hour.toBoard)} | ${ms(hour.checks)} | ${hour.stall} | ${hour.again} | ${hour.memory} | ${hour.checked}, ${hour.lost} | ${hour.limited['429']}, ${hour.limited['503']} |`,
    );
  }
console.log(
  'Times are p50 / p95 / p99. The stall is the longest time in which a server’s event loop did nothing else.',
);
