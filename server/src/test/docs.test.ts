import { describe, expect, it } from '@jest/globals';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readFromRobot } from '@vigilum/core/formats';
import { canRun, keywords, parseScript, shapes } from '@vigilum/core/script';
import { meanings, wordMeanings } from '@vigilum/core/editing';
import { prove, rehearse, tryCircumstances } from '@vigilum/core/lesson';
import { cobbleBuild } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { tideLine } from '../starter/tideLine.ts';

const root = join(import.meta.dirname, '../../..');
const doc = (name: string) => readFileSync(join(root, 'docs', name), 'utf8');
/** The fenced blocks without a language. */
const blocks = (text: string) =>
  [...text.matchAll(/^```(\w*)\n([\s\S]*?)^```$/gm)]
    .filter(([, tongue]) => tongue === '')
    .map((match) => match[2]!);

describe('the documents tell the truth', () => {
  it('every script in the language reference reads without a fault and runs', () => {
    const scripts = blocks(doc('step-script.md'));
    expect(scripts.length).toBeGreaterThan(4);
    for (const script of scripts) {
      const program = parseScript(script);
      expect([script, program.findings]).toEqual([script, []]);
      expect(canRun(program)).toBe(true);
      const known = { kit: cobble, build: cobbleBuild, sets: [], thresholds: { K3: 48 } };
      const { run } = rehearse(tideLine, known, program, tryCircumstances(tideLine, 'A', 1));
      expect(run.ended.how).not.toBe('error');
    }
  });

  it('the language reference has every step, every word and every key word of the grammar', () => {
    const text = doc('step-script.md').replace(/ +\|/g, ' |').replace(/\| +/g, '| ');
    for (const [word, list] of Object.entries(shapes)) {
      expect(text).toContain(`| ${list.map((one) => `\`${one}\``).join(' · ')} | ${meanings[word]} |`);
    }
    for (const [word, means] of Object.entries(wordMeanings))
      expect(text).toContain(`| \`${word}\` | ${means} |`);
    expect(keywords.filter((word) => !new RegExp(`\\b${word}\\b`).test(text))).toEqual([]);
  });

  it('every robot line in the protocol’s example is of the protocol', () => {
    const lines = blocks(doc('line-protocol.md')).flatMap((block) => block.trim().split('\n'));
    const spoken = lines.filter((line) => !line.startsWith('>'));
    expect(spoken.length).toBeGreaterThan(5);
    for (const line of spoken) expect([line, readFromRobot(line)]).not.toEqual([line, null]);
  });

  it('every picture is linked from the README, and there are fewer than twenty', () => {
    const readme = readFileSync(join(root, 'README.md'), 'utf8');
    const pictures = readdirSync(join(root, 'docs/screenshots')).filter((file) => file.endsWith('.png'));
    expect(pictures.length).toBeLessThan(20);
    expect(pictures.filter((file) => !readme.includes(`docs/screenshots/${file}`))).toEqual([]);
  });
});

describe('the demo’s lesson', () => {
  it('proves its own model answer on a robot that has read nothing yet', () => {
    const known = { kit: cobble, build: cobbleBuild, sets: [], thresholds: { K3: 48 } };
    const { proof } = prove(
      tideLine,
      known,
      parseScript(tideLine.modelScript),
      tideLine.proof.seed,
      tideLine.proof.runs,
    );
    expect(proof.verdict).toBe('proved');
  });
});
