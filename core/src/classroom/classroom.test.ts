import { describe, expect, it } from '@jest/globals';
import { judge, sumUp, pastSignal, type Judgement } from '../expect/index.ts';
import { newStep, type Lesson } from '../lesson/index.ts';
import type { Trace } from '../sim/index.ts';
import { built, kit, lesson as whole } from '../test/index.ts';
import {
  byUrgency,
  currentStage,
  findingsOf,
  helpFor,
  knownRobotOf,
  lastActivity,
  needsOf,
  thresholdsOf,
  stagesOf,
  trialsAt,
  trialVerdict,
  type HelpCall,
  type TeamRecord,
} from './index.ts';

// One expectation is enough here.
const lesson: Lesson = { ...whole, expectations: whole.expectations.slice(0, 1) };
const stopped = (past: number): Judgement[] => {
  const trace: Trace = {
    timesS: Float32Array.from([0]),
    signals: { [pastSignal('near-edge')]: { unit: 'mm', values: Float32Array.from([past]) } },
  };
  return lesson.expectations.map((e) => judge(e, trace));
};
const start: TeamRecord = {
  kit,
  lesson,
  wireCheck: null,
  sets: [],
  quickLooks: [],
  threshold: null,
  script: null,
  lastTry: null,
  lastProof: null,
  trials: [],
  build: built(),
};
const sets = [
  { surface: 'line', values: [21, 22, 23, 22, 22], at: 200 },
  { surface: 'floor', values: [75, 76, 77, 76, 76], at: 300 },
];
const text = 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop';
const proof = (good: number, bad: number) =>
  sumUp(
    [...Array<number>(good).fill(12), ...Array<number>(bad).fill(90)].map((past, seed) => ({
      seed,
      judgements: stopped(past),
    })),
    lesson.expectations,
    0.8,
  );
const finished: TeamRecord = {
  ...start,
  wireCheck: { reacts: true, at: 100 },
  sets,
  threshold: { value: 49, compare: 'level' as const, leave: null, at: 400 },
  script: { version: 2, sameSince: 2, text, at: 500 },
  lastTry: { scriptVersion: 2, judgements: stopped(12), pastMm: 12, at: 600 },
  lastProof: { scriptVersion: 2, proof: proof(20, 0), at: 700 },
  trials: [12, 15, 14].map((pastMm, i) => ({ judgements: stopped(pastMm), pastMm, at: 800 + i })),
};
const untold = stopped(12).map((judgement): Judgement => ({ ...judgement, verdict: 'cannot tell' }));
const strip = (record: TeamRecord) => stagesOf(record).map((s) => `${s.state} ${s.figure}`.trim());
const stageOf = (record: TeamRecord, stage: string) => stagesOf(record).find((s) => s.stage === stage)!;

describe('where a team stands', () => {
  it('has all seven numbers when all is done', () => {
    expect(strip(finished)).toEqual([
      'done K3 light',
      'done 22 · 76',
      'done 49 %',
      'done 3 steps',
      'done 12 mm',
      'done 20/20',
      'done 3 of 3',
    ]);
    expect(currentStage(stagesOf(finished)).stage).toBe('floor');
    expect(helpFor(finished, stagesOf(finished), 0)).toBeNull();
    expect(lastActivity(finished)).toBe(802);
  });

  it('is at the first open stage', () => {
    expect(strip(start)).toEqual(['now', 'none', 'none', 'none', 'none', 'none', 'none']);
    expect(strip({ ...start, wireCheck: finished.wireCheck, sets: [sets[0]!] })).toEqual([
      'done K3 light',
      'now 22 · –',
      'none',
      'none',
      'none',
      'none',
      'none',
    ]);
    expect(lastActivity(start)).toBeNull();
  });

  it.each<[string, Partial<TeamRecord>, string, string]>([
    [
      'the plug in the wrong socket',
      { build: { ...start.build, fittings: [{ ...start.build.fittings[0]!, socket: 'K4' }] } },
      'wire',
      'fault K4?',
    ],
    [
      'a sensor that sits high',
      { build: { ...start.build, fittings: [{ ...start.build.fittings[0]!, heightMm: 27 }] } },
      'wire',
      'risk K3 light',
    ],
    [
      'surfaces that read alike',
      { sets: sets.map((s) => ({ ...s, values: [50, 50] })) },
      'read',
      'fault 50 · 50',
    ],
    [
      'surfaces that lie close',
      {
        sets: [
          { ...sets[0]!, values: [20, 24, 28, 24] },
          { ...sets[1]!, values: [34, 36, 40, 36] },
        ],
      },
      'read',
      'risk 24 · 37',
    ],
    [
      'a threshold that left its readings',
      { threshold: { value: 80, compare: 'level' as const, leave: null, at: 1 } },
      'decide',
      'fault 80 %',
    ],
    [
      'a threshold next to a surface',
      { threshold: { value: 75, compare: 'level' as const, leave: null, at: 1 } },
      'decide',
      'risk 75 %',
    ],
    ['a threshold whose readings were removed', { sets: [] }, 'decide', 'risk 49 %'],
    [
      'a forgotten stop',
      { script: { version: 2, sameSince: 2, text: text.replace('\nstop', ''), at: 1 } },
      'script',
      'fault 2 steps',
    ],
    [
      'a script that cannot be read',
      { script: { version: 2, sameSince: 2, text: 'drvie', at: 1 } },
      'script',
      'fault 0 steps',
    ],
    [
      'a run that rolled past',
      { lastTry: { ...finished.lastTry!, judgements: stopped(71), pastMm: 71 } },
      'try',
      'fault 71 mm',
    ],
    ['a run of an older script', { lastTry: { ...finished.lastTry!, scriptVersion: 1 } }, 'try', 'now'],
    ['a shaky proof', { lastProof: { ...finished.lastProof!, proof: proof(17, 3) } }, 'prove', 'risk 17/20'],
    ['a failed proof', { lastProof: { ...finished.lastProof!, proof: proof(2, 18) } }, 'prove', 'fault 2/20'],
    [
      'a proof of an older script',
      { lastProof: { ...finished.lastProof!, scriptVersion: 1 } },
      'prove',
      'now',
    ],
    ['too few trials', { trials: finished.trials.slice(0, 1) }, 'floor', 'now 1 of 1'],
    [
      'a trial that missed',
      { trials: [...finished.trials.slice(0, 2), { judgements: stopped(60), pastMm: 60, at: 9 }] },
      'floor',
      'risk 2 of 3',
    ],
    [
      'a trial that measured nothing that is judged',
      { trials: [...finished.trials.slice(0, 2), { judgements: untold, pastMm: null, at: 9 }] },
      'floor',
      'now 2 of 2',
    ],
  ])('shows %s', (_, change, stage, expected) => {
    const found = stageOf({ ...finished, ...change }, stage);
    expect(`${found.state} ${found.figure}`.trim()).toBe(expected);
    if (found.state === 'fault' || found.state === 'risk')
      expect([found.says, found.mend].every((s) => s.length > 0)).toBe(true);
  });

  it('a run that never came to rest is told as such, not by how far it got', () => {
    const moving: Judgement[] = [
      ...stopped(751),
      { verdict: 'broken', margin: -500, unit: 'mm/s', says: 'still moving' },
    ];
    const record: TeamRecord = {
      ...finished,
      lesson: { ...lesson, expectations: whole.expectations.slice(0, 2) },
      lastTry: { ...finished.lastTry!, judgements: moving, pastMm: 751 },
    };
    expect(stageOf(record, 'try')).toMatchObject({
      state: 'fault',
      figure: 'no stop',
      says: 'The last run never stopped.',
    });
  });

  it('a trial of one floor step stands there alone; one that names no step, or one that is gone, at the first', () => {
    const floors = [newStep('floor', []), { ...newStep('floor', []), id: 'again' }];
    const twoFloors = { ...lesson, steps: floors };
    const trials = [null, floors[0]!.id, 'again', 'removed'].map((step, id) => ({ id, step }));
    const idsAt = (step: (typeof floors)[number] | undefined) =>
      trialsAt(trials, twoFloors, step).map(({ id }) => id);
    expect([idsAt(floors[0]), idsAt(floors[1]), idsAt(undefined)]).toEqual([[0, 1, 3], [2], [0, 1, 2, 3]]);
  });

  it('a trial counts for nothing where nothing that was measured is judged, and for what was asked where nothing can be', () => {
    expect(trialVerdict({ judgements: untold })).toBe('not judged');
    expect(trialVerdict({ judgements: [...untold, ...stopped(12)] })).toBe('kept');
    expect(trialVerdict({ judgements: [...untold, ...stopped(60)] })).toBe('broken');
    const trial = { judgements: untold, pastMm: null, at: 9 };
    const record = {
      ...finished,
      lesson: { ...lesson, expectations: [], floor: { trials: 3, landmark: '' } },
      trials: [trial, trial, trial],
    };
    expect(stageOf(record, 'floor')).toMatchObject({ state: 'done', figure: '3 logged' });
    expect(stageOf({ ...record, trials: [trial] }, 'floor')).toMatchObject({
      state: 'now',
      figure: '1 logged',
    });
  });

  it('an untouched start script is not a script yet', () => {
    expect(
      stageOf(
        { ...finished, script: { version: 1, sameSince: 1, text: 'sensor floor is light on K3\n', at: 1 } },
        'script',
      ).state,
    ).toBe('now');
    expect(findingsOf(start)).toEqual([]);
  });
});

describe('the sensors a team needs', () => {
  it('are the lesson’s and whatever else its script declares', () => {
    const script = {
      version: 1,
      sameSince: 1,
      at: 1,
      text: 'sensor nose is touch on K1\nsensor floor is light on k3\nsensor again is touch on K1',
    };
    expect(needsOf({ ...finished, script }).map(({ kind, socket }) => `${kind} on ${socket}`)).toEqual([
      'light on K3',
      'touch on K1',
    ]);
    expect(needsOf(start)).toEqual([lesson.need]);
  });
});

describe('a decided change', () => {
  const change = (value: number) => ({ value, compare: 'change' as const, leave: null, at: 400 });
  it('is done when the surfaces are farther apart than it, and gives the script no level', () => {
    const decide = (record: TeamRecord) => stagesOf(record).find(({ stage }) => stage === 'decide');
    expect(decide({ ...finished, threshold: change(32) })).toMatchObject({ state: 'done', figure: '±32 %' });
    expect(decide({ ...finished, threshold: change(60) })).toMatchObject({ state: 'fault' });
    expect(thresholdsOf({ ...finished, threshold: change(32) })).toEqual({});
    const pair = { value: 40, compare: 'pair' as const, leave: 58, at: 400 };
    expect(decide({ ...finished, threshold: pair })).toMatchObject({ state: 'done', figure: '40 | 58 %' });
  });
});

describe('what the simulator may know of a team’s robot', () => {
  it('is what the team read and decided, on the lesson’s socket, and its own braking once it was tried', () => {
    const known = knownRobotOf(finished);
    expect(known.thresholds).toEqual(thresholdsOf(finished));
    expect(known.sets.map(({ socket, surface }) => ({ socket, surface }))).toEqual(
      finished.sets.map(({ surface }) => ({ socket: lesson.need.socket, surface })),
    );
    expect(known).not.toHaveProperty('braking');
    const braking = { commandDelayMs: 31, tauBrakeS: 0.08 };
    expect(knownRobotOf({ ...finished, braking })).toMatchObject({ braking });
  });

  it('is reviewed by its own least speed once that was measured', () => {
    const crawls = { ...finished, script: { ...finished.script!, text: 'drive 5 %\nwait 1 s\nstop\n' } };
    const slow = (record: typeof finished) =>
      findingsOf(record).filter(({ says }) => /turn a wheel/.test(says));
    expect(slow(crawls)).toEqual([]);
    expect(slow({ ...crawls, braking: { deadPercent: 8 } })).toHaveLength(1);
  });

  it('has no sets and no threshold before anything was read', () => {
    expect(knownRobotOf(start)).toMatchObject({ sets: [], thresholds: {} });
  });
});

describe('who needs help', () => {
  it('is told by the first fault, before any risk, with the quiet minutes', () => {
    const record: TeamRecord = {
      ...finished,
      threshold: { value: 75, compare: 'level' as const, leave: null, at: 400 },
      lastTry: { ...finished.lastTry!, judgements: stopped(71), pastMm: 71 },
    };
    expect(helpFor(record, stagesOf(record), 802 + 6.5 * 60_000)).toMatchObject({
      stage: 'try',
      grade: 'fault',
      quietMin: 6,
    });
  });

  it('comes in order: faults first, then whoever has been quiet longest', () => {
    const call = (grade: 'fault' | 'risk', quietMin: number | null): HelpCall => ({
      stage: 'wire',
      grade,
      says: '',
      mend: '',
      quietMin,
    });
    const calls = [call('risk', 30), call('fault', 2), call('fault', null), call('fault', 9)];
    expect(calls.sort(byUrgency).map((c) => c.quietMin)).toEqual([null, 9, 2, 30]);
  });
});
