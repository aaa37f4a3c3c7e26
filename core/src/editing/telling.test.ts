import { describe, expect, it } from '@jest/globals';
import { parseScript, shapes } from '../script/index.ts';
import { flowOf, mermaidOf, readAloud } from './index.ts';

const lanes = `sensor floor is light on K3
sensor nose is touch on K1
let lanes = 0
drive 25 %  # slowly
repeat until nose is pressed
  if floor < threshold
    set lanes to lanes + 1
    wait until floor rises by 20
  else if lanes >= 5
    leave
  else
    do hum by 1 s
  end
end
stop
show "Lanes: " and lanes
task hum by t
  beep 440 Hz for t
end`;

describe('reading aloud', () => {
  it('numbers the steps and says them in whole sentences', () => {
    expect(readAloud(parseScript(lanes)).map(({ number, text }) => `${number} ${text}`.trim())).toEqual([
      '1 Drive forward at 25 percent.',
      '2 Again and again, until nose is pressed:',
      '2.1 If floor is less than the threshold of floor:',
      '2.1.1 Set lanes to lanes plus 1.',
      '2.1.2 Wait until floor has risen by 20.',
      '2.2 Otherwise, if lanes is at least 5:',
      '2.2.1 Leave the repeat.',
      '2.3 Otherwise:',
      '2.3.1 Do “hum” by 1 second.',
      '3 Stop.',
      '4 Show “Lanes: ” and lanes.',
      'To “hum” by t:',
      '1 Sound 440 hertz for t.',
    ]);
  });

  it('says every kind of step with its units in words', () => {
    const all = (text: string) =>
      readAloud(parseScript(`sensor front is distance on K2\n${text}`)).map((s) => s.text);
    expect(
      all(
        'drive -30 % for 10 cm\nwheels 40 % and -20 % for 2 turns\nturn right 90 deg\nraw drive 60 % for 1 s',
      ),
    ).toEqual([
      'Drive backward at 30 percent for 10 centimetres, then brake.',
      'Turn the left wheel at 40 percent and the right wheel at minus 20 percent until the wheels have turned 2 turns, then brake.',
      'Turn right on the spot by 90 degrees at 30 percent.',
      'Drive forward at 60 percent of raw power for 1 second, then brake.',
    ]);
    expect(all('wait until not (front < 15 cm or front is nothing)')).toEqual([
      'Wait until not (front is less than 15 centimetres or front sees nothing).',
    ]);
    for (const text of Object.values(shapes).flat()) {
      for (const { text: said } of readAloud(parseScript(text))) expect(said).toMatch(/^[A-Z“\d].*[.:]$/);
    }
  });
});

describe('the flow diagram', () => {
  const flow = flowOf(parseScript(lanes));
  const ways = (id: string) => flow.edges.filter((e) => e.from === id).map((e) => `${e.label}>${e.to}`);

  it('leads from every box to where the program goes on', () => {
    expect(flow.nodes[0]).toMatchObject({ kind: 'start' });
    expect(ways('begin')).toEqual(['>line4']);
    expect(ways('line4')).toEqual(['>line5']);
    expect(ways('line5')).toEqual(['yes>line15', 'no>line6']);
    expect(ways('line6')).toEqual(['yes>line7', 'no>line9']);
    expect(ways('line8')).toEqual(['yes>line5', 'no>line8']);
    // “leave” is no box: its way leads behind the repeat.
    expect(ways('line9')).toEqual(['yes>line15', 'no>line12']);
    expect(ways('line16')).toEqual(['>done']);
    expect(flow.nodes.find((n) => n.id === 'line4')!.text).toBe('drive 25 %');
  });

  it('keeps own steps apart, and comes to an end from everywhere that can', () => {
    expect(ways('task1_begin')).toEqual(['>line18']);
    expect(flow.nodes.filter((n) => n.task === 0)).toHaveLength(3);
    const known = new Set(flow.nodes.map((n) => n.id));
    expect(flow.edges.filter((e) => !known.has(e.from) || !known.has(e.to))).toEqual([]);
  });

  it('gives “finish” in an own step an end of its own', () => {
    const { nodes } = flowOf(parseScript('do a\ntask a\nfinish\nend'));
    expect(nodes.filter(({ kind }) => kind === 'end').map(({ text }) => text)).toEqual([
      'end',
      'finish',
      'go on',
    ]);
  });

  it('is written as Mermaid text, odd characters escaped', () => {
    const text = mermaidOf(parseScript(lanes));
    expect(text.split('\n').slice(0, 3)).toEqual([
      'flowchart TD',
      '  begin(["start"])',
      '  line4["drive 25 %"]',
    ]);
    expect(text).toContain('line6{"if floor #lt; threshold"}');
    expect(text).toContain('line16["show #quot;Lanes: #quot; and lanes"]');
    expect(text).toContain('subgraph task1["hum"]');
    expect(text).toContain('line6 -->|yes| line7');
  });
});
