import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

const root = join(import.meta.dirname, '..');

/** The languages that parsers are made for. */
export const grammars = ['core/src/script/script.grammar', 'core/src/notation/notation.grammar'];

const parserOf = (grammar) => join(root, dirname(grammar), 'generated/parser.ts');

/** Makes the parser of a grammar, beside it or elsewhere. */
export function makeParser(grammar, to = parserOf(grammar)) {
  execFileSync(
    process.execPath,
    ['node_modules/@lezer/generator/src/lezer-generator.cjs', '--typeScript', grammar, '-o', to],
    { cwd: root, stdio: 'ignore' },
  );
}

/** Whether the parser that is kept beside a grammar is the one that it gives. */
export function isFresh(grammar) {
  const fresh = join(mkdtempSync(join(tmpdir(), 'vigilum-grammar-')), 'parser.ts');
  makeParser(grammar, fresh);
  return ['.ts', '.terms.ts'].every(
    (end) =>
      readFileSync(fresh.replace(/\.ts$/, end), 'utf8') ===
      readFileSync(parserOf(grammar).replace(/\.ts$/, end), 'utf8'),
  );
}
