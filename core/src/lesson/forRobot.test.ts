import { describe, expect, it } from '@jest/globals';
import { fullBuild, fullKit, lesson as plain } from '../test/index.ts';
import { forRobot, movedSensor, newStep, variantOf, type Lesson } from './index.ts';

const own = { kit: 'other', build: fullBuild, thresholds: { 'P-1': 40 } };
const lesson: Lesson = {
  ...plain,
  need: { kind: 'light', name: 'floor', socket: 'P-1' },
  also: [{ kind: 'distance', name: 'front', socket: 'K3' }],
  startScript: 'sensor floor is light on P-1\nsensor front is distance on K3\nshow "K3"\n',
  expectations: [
    { kind: 'soon after', seconds: 1, when: { is: 'pressed', socket: 'K3' }, then: { is: 'stands' } },
    { kind: 'formula', says: 'Sees K3', formula: 'always (K3 > 3 -> "P-1" < 50)' },
  ],
  steps: [
    { ...newStep('wire', []), text: 'Plug **P-1** and K3, not K33 or AP-1.' },
    { ...newStep('read', []), part: { socket: 'K3', at: [100] } },
  ],
  robot: own,
};

describe('a lesson for a robot of another kit', () => {
  const on = forRobot(lesson, fullKit, fullBuild);

  it('names the sockets that this robot has, everywhere', () => {
    expect([on.need.socket, on.also![0]!.socket]).toEqual(['K3', 'K2']);
    expect(on.startScript).toBe('sensor floor is light on K3\nsensor front is distance on K2\nshow "K2"\n');
    expect(on.steps![0]!.text).toBe('Plug **K3** and K2, not K33 or AP-1.');
    expect(on.steps![1]!.part!.socket).toBe('K2');
    expect(on.expectations).toEqual([
      { kind: 'soon after', seconds: 1, when: { is: 'pressed', socket: 'K2' }, then: { is: 'stands' } },
      { kind: 'formula', says: 'Sees K2', formula: 'always ("K2" > 3 -> "K3" < 50)' },
    ]);
    // Its own robot stays what it is.
    expect(on.robot).toBe(own);
  });

  it('asks for a free socket where the sensor is not plugged in yet', () => {
    const bare = { ...fullBuild, fittings: fullBuild.fittings.filter(({ socket }) => socket !== 'K2') };
    expect(forRobot(lesson, fullKit, bare).also![0]!.socket).toBe('K2');
    const elsewhere = { ...bare, fittings: [...bare.fittings, { ...fullBuild.fittings[0]!, socket: 'K2' }] };
    expect(forRobot(lesson, fullKit, elsewhere).also![0]!.socket).toBe('K4');
  });

  it('follows a robot whose kit has sockets of the same names with other sensors on them', () => {
    const startScript = `sensor floor is light on ${plain.need.socket}\n`;
    const alike: Lesson = { ...plain, startScript, robot: own };
    const [bumper, sounder] = ['touch', 'distance'].map(
      (kind) => fullBuild.fittings.find(({ mode }) => mode === kind)!.socket,
    );
    const { socket } = plain.need;
    const moved = { [socket]: bumper!, [bumper!]: sounder!, [sounder!]: socket };
    const fittings = fullBuild.fittings.map((fitting) => ({
      ...fitting,
      socket: moved[fitting.socket] ?? fitting.socket,
    }));
    const followed = forRobot(alike, fullKit, { ...fullBuild, fittings });
    expect(followed.need.socket).toBe(bumper);
    expect(followed.startScript).toBe(`sensor floor is light on ${bumper}\n`);
    // On its own kit that is a plug in the wrong socket.
    expect(forRobot(alike, { ...fullKit, slug: 'other' }, { ...fullBuild, fittings })).toBe(alike);
  });

  it('is as it was for the lesson’s own kit, without a robot, and where the kit lacks a sensor', () => {
    expect(forRobot(lesson, { ...fullKit, slug: 'other' }, fullBuild)).toBe(lesson);
    expect(forRobot(plain, fullKit, fullBuild)).toBe(plain);
    const alike: Lesson = { ...plain, robot: own };
    expect(forRobot(alike, fullKit, fullBuild)).toBe(alike);
    const noSounder = { ...fullKit, sensors: fullKit.sensors.filter(({ id }) => id !== 'sounder') };
    const fittings = fullBuild.fittings.filter(({ sensorId }) => sensorId !== 'sounder');
    expect(forRobot(lesson, noSounder, { ...fullBuild, fittings })).toBe(lesson);
  });
});

describe('a sensor moved to another socket', () => {
  const twisted: Lesson = {
    ...lesson,
    robot: { ...own, thresholds: { 'P-1': 40, K3: 18 } },
    twist: {
      parameters: [
        { is: 'number', name: 'gap', says: 'gap', unit: 'cm', from: 10, to: 20, step: 1, usual: 15 },
      ],
      constraints: [],
      bindings: [{ at: '/robot/thresholds/K3', value: 'gap + 3' }],
    },
  };

  it('takes scripts, steps, thresholds and twist along, and changes places with what sat there', () => {
    const moved = movedSensor(twisted, 'K3', 'P-1');
    expect([moved.need.socket, moved.also![0]!.socket]).toEqual(['K3', 'P-1']);
    expect(moved.startScript).toContain('light on K3\nsensor front is distance on P-1');
    expect(moved.robot!.thresholds).toEqual({ 'P-1': 18, K3: 40 });
    expect(moved.robot!.build.fittings.map(({ socket }) => socket)).toEqual(['K1', 'K2', 'P-1', 'K5']);
    expect(variantOf(moved, { gap: 12 }).robot!.thresholds).toEqual({ 'P-1': 15, K3: 40 });
  });

  it('is as it was when moved back, and where it is', () => {
    expect(movedSensor(movedSensor(twisted, 'K3', 'K6'), 'K6', 'K3').steps).toEqual(twisted.steps);
    expect(movedSensor(twisted, 'K3', 'K3')).toEqual({
      ...twisted,
      // Formulas have their names in quotes afterwards: they mean the same.
      expectations: [
        twisted.expectations[0],
        { kind: 'formula', says: 'Sees K3', formula: 'always ("K3" > 3 -> "P-1" < 50)' },
      ],
    });
  });
});
