import { applyFix, insertSteps, nudgeStep, removeStep, replaceStep, unwrapBlock } from './edit.ts';
import { plainScript, usualFaults } from './faults/index.ts';
import type { Finding } from '../script/index.ts';
import { formatScript } from '../script/index.ts';
import { outline, type OutlineRow } from './outline.ts';
import { canRun, parseScript } from '../script/index.ts';

/** A script with one change, and the change in words. */
export interface ChangedScript {
  says: string;
  line: number;
  text: string;
}

/** Most steps that one new repeat is put round. */
const WRAP = 12;
/** Steps that may be what is missing, whatever the model answer says. */
const usualSteps = ['stop', 'wait 0.5 s'];

const bare = (line: string): string => line.replace(/#.*/, '').trim();

/** What was changed between two scripts, in words. Lines laid out otherwise do not count. */
export function changeSays(before: string, after: string): { says: string; line: number } {
  const [a, b] = [before.split('\n').map(bare), after.split('\n').map(bare)];
  let from = 0;
  while (from < a.length && from < b.length && a[from] === b[from]) from++;
  let [endA, endB] = [a.length, b.length];
  while (endA > from && endB > from && a[endA - 1] === b[endB - 1]) [endA, endB] = [endA - 1, endB - 1];
  const old = a.slice(from, endA).filter(Boolean);
  const fresh = b.slice(from, endB).filter(Boolean);
  const told = (lines: string[]) => lines.map((line) => `“${line}”`).join(', ');
  const line = from + 1;
  if (old.length === 0)
    return {
      line: Math.max(1, from),
      says: from === 0 ? `At the top add ${told(fresh)}` : `After line ${from} add ${told(fresh)}`,
    };
  if (fresh.length === 0) return { line, says: `Leave out ${told(old)} in line ${line}` };
  if (old.length === 1 && fresh.length === 1)
    return { line, says: `In line ${line} write ${told(fresh)} instead of ${told(old)}` };
  const opens = fresh.length > old.length && old.every((text) => fresh.includes(text));
  if (opens) {
    const added = [...fresh];
    for (const text of old) added.splice(added.indexOf(text), 1);
    return {
      line,
      says: `Put lines ${line} to ${line + old.length - 1} between ${added.map((text) => `“${text}”`).join(' and ')}`,
    };
  }
  const taken = [...old].sort().join('\n') === [...fresh].sort().join('\n');
  if (taken)
    return { line, says: `Put lines ${line} to ${line + old.length - 1} in this order: ${told(fresh)}` };
  return { line, says: `In lines ${line} to ${line + old.length - 1} write ${told(fresh)}` };
}

interface Parts {
  steps: string[];
  heads: string[];
}

/** The plain steps and the block heads of a script, each once. */
function partsOf(text: string): Parts {
  const rows = outline(text);
  const lines = text.split('\n').map(bare);
  const pick = (wanted: (row: OutlineRow) => boolean) => [
    ...new Set(rows.flatMap((row, i) => (wanted(row) && lines[i] ? [lines[i]] : []))),
  ];
  return {
    steps: pick((row) => row.role === 'step').filter((line) => !/^(sensor|motor|list|let)\b/i.test(line)),
    heads: pick((row) => row.role === 'block' && row.opens === 'repeat'),
  };
}

function* edits(text: string, model: Parts, findings: readonly Finding[]): Generator<string> {
  for (const { fix } of findings) if (fix) yield applyFix(text, fix).text;
  const rows = outline(text);
  const lines = text.split('\n');
  const steps = [...new Set([...model.steps, ...usualSteps])];
  const declared = (line: number) => /^\s*(sensor|motor|list|let)\b/i.test(lines[line - 1] ?? '');
  // What is wrong in one line: another step of the same kind in its place.
  for (const row of rows) {
    if (row.role !== 'step' && row.role !== 'block') continue;
    const word = bare(lines[row.line - 1]!).split(' ')[0];
    for (const code of row.role === 'step' ? steps : model.heads) {
      if (code.split(' ')[0] === word && !declared(row.line)) yield replaceStep(text, row.line, code).text;
    }
  }
  for (const { text: broken } of usualFaults(text)) yield broken;
  // What is missing: a step after each line.
  const first = rows.findIndex(
    (row, i) => row.role !== 'blank' && row.role !== 'comment' && !declared(i + 1),
  );
  for (let after = Math.max(0, first); after <= lines.length; after++) {
    for (const code of steps) yield insertSteps(text, after, code).text;
  }
  for (const row of rows) {
    if (row.role === 'step' && !declared(row.line)) yield removeStep(text, row.line).text;
    if (row.role === 'block') {
      const without = unwrapBlock(text, row.line);
      if (without) yield without.text;
    }
    for (const way of ['up', 'down'] as const) {
      const moved = declared(row.line) ? null : nudgeStep(text, row.line, way);
      if (moved) yield moved.text;
    }
  }
  // What should be done again and again: a repeat round some steps in a row.
  for (const head of new Set([...model.heads, 'repeat'])) {
    for (let from = Math.max(1, first + 1); from <= lines.length; from++) {
      for (let to = from; to <= Math.min(lines.length, from + WRAP - 1); to++) {
        const inside = rows.slice(from - 1, to);
        // Only whole blocks can be put inside another.
        if (inside.some((row) => row.from < from || row.to > to || row.role === 'blank')) continue;
        const put = [
          ...lines.slice(0, from - 1),
          head,
          ...lines.slice(from - 1, to),
          'end',
          ...lines.slice(to),
        ];
        yield formatScript(put.join('\n'));
      }
    }
  }
}

/**
 * Every script that lies one change away and can be run: what the review proposes, a step written otherwise, added,
 * left out or moved, a repeat put round some steps. Steps to write are taken from a model answer. Likely ones first.
 */
export function* singleChanges(
  text: string,
  modelText: string,
  findings: readonly Finding[] = [],
): Generator<ChangedScript> {
  const seen = new Set([plainScript(text)]);
  for (const changed of edits(text, partsOf(modelText), findings)) {
    const key = plainScript(changed);
    if (seen.has(key)) continue;
    seen.add(key);
    if (canRun(parseScript(changed))) yield { ...changeSays(text, changed), text: changed };
  }
}
