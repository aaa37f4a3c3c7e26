import { describe, expect, it } from '@jest/globals';
import { fullBuild, fullKit } from '../test/index.ts';
import { canRun, formatScript, parseScript } from '../script/index.ts';
import {
  completionsAt,
  explainAt,
  flowOf,
  insertTemplate,
  mermaidOf,
  moveStep,
  nudgeStep,
  outline,
  readAloud,
  stepPieces,
  stepTemplates,
  usualFaults,
  withField,
} from './index.ts';

const robot = { kit: fullKit, build: fullBuild, thresholds: { K3: 48 }, surfaces: {} };
const text = `sensor nose is touch on K1
sensor floor is light on K3
sensor front is distance on K2
list readings
let found = no
let far = 0
drive 30 % until floor < threshold
drive -20 % for 10 cm until nose is pressed
repeat 3 times as i
  add floor to readings
  log floor and average of readings
  wait random from 0.1 s to 0.2 s
end
repeat while not found
  set found to front < 10 cm
  turn right until front > 20 cm
end
set far to do look by 3
steer 2 * (front - 15) at 20 % until heard "go"
show item 1 of readings and " " and remainder(far, 5 cm)
clear readings
send "go"

whenever nose is pressed
  drive -20 % for 5 cm
end

task look by n
  let total = 0 cm
  if n < 1
    give back 0 cm
  end
  give back total / n
end`;
const program = parseScript(text);

describe('everything that can be said', () => {
  it('is read aloud', () => {
    expect(program.findings).toEqual([]);
    expect(readAloud(program).map((one) => one.text)).toEqual([
      'Drive forward at 30 percent until floor is less than the threshold of floor, then brake.',
      'Drive backward at 20 percent for 10 centimetres, or until nose is pressed, then brake.',
      'Repeat 3 times, counting in i:',
      'Put floor into readings.',
      'Note floor and the average of readings in the log.',
      'Wait for a chance value from 0.1 seconds to 0.2 seconds.',
      'Again and again, while not found:',
      'Set found to front is less than 10 centimetres.',
      'Spin to the right at 30 percent until front is more than 20 centimetres, then brake.',
      'Do “look” by 3 and set far to what it gives back.',
      'Drive at 20 percent and steer by 2 times (front minus 15) until “go” is heard, then brake.',
      'Show number 1 of readings and “ ” and what is left over when dividing far by 5 centimetres.',
      'Empty readings.',
      'Send “go” to the other robot.',
      'Beside all this, whenever nose is pressed:',
      'Drive backward at 20 percent for 5 centimetres, then brake.',
      'To “look” by n:',
      'Set total to 0 centimetres.',
      'If n is less than 1:',
      'Give back 0 centimetres.',
      'Give back total divided by n.',
    ]);
  });

  it('is drawn, what runs beside it in a picture of its own', () => {
    const { nodes, edges } = flowOf(program);
    expect(nodes.filter(({ kind }) => kind === 'start').map(({ text }) => text)).toEqual([
      'start',
      'look',
      'whenever nose is pressed',
    ]);
    for (const { from, to } of edges)
      expect([from, to].filter((id) => !nodes.some((node) => node.id === id))).toEqual([]);
    expect(mermaidOf(program)).toContain('subgraph task2["whenever nose is pressed"]');
  });

  it('other words are drawn and listed in the script’s own', () => {
    const loose = parseScript('sensor nose is touch on K1\nloop forever\n  go back 20 %\nend loop');
    expect(flowOf(loose).nodes.map((node) => node.text)).toContain('drive -20 %');
    expect(outline('forever\n  brake\nend').map((row) => row.code)).toEqual(['repeat', 'stop', 'end']);
  });

  it('can be cut into fields, and each field put back as it was', () => {
    for (const { code, role } of outline(text)) {
      if (role === 'blank') continue;
      const pieces = stepPieces(code, program, robot);
      expect(pieces.length).toBeGreaterThan(0);
      for (const piece of pieces) {
        if (piece.kind === 'words') continue;
        const value = piece.kind === 'number' ? `${piece.value} ${piece.unit}`.trim() : piece.value;
        expect(formatScript(withField(code, piece, value))).toBe(formatScript(code));
      }
    }
    const fields = stepPieces('add floor to readings', program, robot).filter(({ kind }) => kind !== 'words');
    expect(fields.map((field) => 'label' in field && field.label)).toEqual(['name', 'list']);
  });

  it.each([
    ['an empty script', ''],
    ['the whole one', text],
  ])('every step that is offered to %s can be added there and runs', (_, script) => {
    for (const template of stepTemplates(parseScript(script), robot)) {
      const placed = insertTemplate(script, script === '' ? 0 : 7, template);
      const added = parseScript(placed.text);
      const blocks = /^(leave|give back)/.test(template.code);
      expect([
        template.code,
        added.findings.filter(({ rule }) => !(blocks && /leave|give back/.test(rule))),
      ]).toEqual([template.code, []]);
      const alone = script === '' && /^(whenever|task)/.test(template.code);
      if (!blocks && !alone) expect([template.code, canRun(added)]).toEqual([template.code, true]);
    }
    const offered = stepTemplates(parseScript(text), robot).map(({ code }) => code.split(' ')[0]);
    for (const word of ['add', 'log', 'whenever', 'send', 'give', 'turn', 'clear'])
      expect(offered.map((one) => one!.split('\n')[0])).toContain(word);
  });

  it('a “whenever” is moved as a whole, past whole blocks', () => {
    const line = text.split('\n').indexOf('whenever nose is pressed') + 1;
    const up = nudgeStep(text, line, 'up')!;
    expect(parseScript(up.text).findings).toEqual([]);
    const first = moveStep(text, line, 6)!;
    expect(parseScript(first.text).watchers).toHaveLength(1);
  });

  it('the usual faults of it are made, and words are completed and explained', () => {
    expect(usualFaults(text).length).toBeGreaterThan(10);
    const at = (line: string) =>
      completionsAt(line, line.length, program, robot)?.options.map((o) => o.label) ?? [];
    expect(at('add floor to ')).toEqual(['readings']);
    expect(at('clear ')).toEqual(['readings']);
    expect(at('wait until ')).toContain('average of readings');
    expect(at('')).toContain('whenever');
    expect(explainAt('add floor to readings', 14, program, robot)?.says[0]).toMatch(
      /A list of numbers, each a percentage/,
    );
    expect(explainAt('show i', 5, program, robot)?.says[0]).toMatch(/number of the round/);
  });
});
