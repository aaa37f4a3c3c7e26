import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { withRecord, type StoredTrial, type StoredTry, type TeamEvidence } from '@vigilum/core/classroom';
import type { Judgement, Proof } from '@vigilum/core/expect';
import { needsOfLesson, stepsOf, type Lesson } from '@vigilum/core/lesson';
import type { Trial } from '@vigilum/core/tuning';
import {
  evidenceOf,
  LONG_AGO_MS,
  ofClass,
  shownOf,
  skillColumns,
  skills,
  skillsAsked,
  standingOf,
  type SkillEvidence,
  type Weight,
} from '@vigilum/core/year';
import { harbourLessons, usualLessons } from '../starter/lessons/index.ts';
import { demoApp, NOW, type DemoApp } from './harness.ts';
import { lessonRobot } from './lessonRobot.ts';

const lessonOf = (slug: string) => usualLessons.find((one) => one.slug === slug)!;

interface Given {
  lesson: string;
  /** The script; `model` for the lesson’s own answer. */
  script?: string;
  /** Readings of each surface of the first read step: mean, scatter, how many, and when. */
  read?: [mean: number, n: number, at: number][];
  threshold?: number;
  proof?: [passes: number, runs: number, verdict: Proof['verdict']];
  /** The proof is of an older script than the newest. */
  oldProof?: boolean;
  tries?: ('kept' | 'broken')[];
  floor?: ('kept' | 'broken')[];
  reflect?: string;
  predictions?: [said: number, came: number][];
  walk?: [knobs: Record<string, number>, past: number, floor?: boolean][];
}

const judged = (lesson: Lesson, verdict: Judgement['verdict']): Judgement[] =>
  lesson.expectations.map(() => ({ verdict, margin: verdict === 'holds' ? 1 : -1, unit: 'mm', says: '' }));

/** Readings about a mean, evenly scattered. */
const looks = (mean: number, n: number) => Array.from({ length: n }, (_, i) => mean + (i % 3) - 1);

function workOf(given: Given) {
  const lesson = lessonOf(given.lesson);
  const { kit, build } = lessonRobot(lesson);
  const read = stepsOf(lesson).find(({ kind }) => kind === 'read');
  const { socket, kind } = lesson.need;
  const tasks = read?.part?.tasks ?? lesson.read.tasks;
  const sets = (given.read ?? []).map(([mean, n, at], i) => ({
    id: i + 1,
    socket,
    kind,
    surface: tasks[i]?.surface ?? `surface ${i}`,
    values: looks(mean, n),
    truth: null,
    lightNote: '',
    at,
  }));
  const sensors = Object.fromEntries(
    needsOfLesson(lesson).map((need) => [
      need.socket,
      {
        wireCheck: null,
        sets: need.socket === socket ? sets : [],
        quickLooks: [],
        threshold:
          need.socket === socket && given.threshold !== undefined
            ? {
                id: 1,
                value: given.threshold,
                method: 'halfway',
                compare: 'level' as const,
                leave: null,
                reason: '',
                at: 40,
              }
            : null,
        sweep: null,
        touch: null,
      },
    ]),
  );
  const text = given.script === 'model' ? lesson.modelScript : given.script;
  const verdictOf = (one: 'kept' | 'broken') => judged(lesson, one === 'kept' ? 'holds' : 'broken');
  const evidence: TeamEvidence = {
    hour: { id: 7, at: 0 },
    team: { id: 1, name: 'Gannet' },
    robot: { id: 1, name: 'Cobble 1', standIn: false },
    kit,
    build,
    lesson,
    sensors,
    script: text === undefined ? null : { version: 2, sameSince: 2, text, at: 50 },
    tries: (given.tries ?? []).map((one, i): StoredTry => ({
      id: i + 1,
      scriptVersion: 2,
      start: 'A',
      seed: i,
      judgements: verdictOf(one),
      pastMm: null,
      at: 60 + i,
    })),
    proof: given.proof
      ? {
          id: 1,
          scriptVersion: given.oldProof ? 1 : 2,
          seed: 1,
          at: 80,
          proof: {
            passes: given.proof[0],
            runs: given.proof[1],
            low: 0,
            high: 1,
            bar: 0.85,
            verdict: given.proof[2],
            each: [],
            worstSeed: null,
          },
        }
      : null,
    trials: (given.floor ?? []).map((one, i): StoredTrial => ({
      id: i + 1,
      scriptVersion: 2,
      step: null,
      changed: '',
      speedPercent: null,
      note: '',
      pastMm: 10,
      gapMm: null,
      turnedDeg: null,
      counted: null,
      rested: true,
      tookS: null,
      seen: {},
      judgements: verdictOf(one),
      at: 90 + i,
    })),
    braking: null,
    twist: null,
    place: null,
    notes: given.reflect
      ? Object.fromEntries(
          stepsOf(lesson)
            .filter((step) => step.kind === 'reflect')
            .map(({ id }) => [id, { text: given.reflect!, revision: 1 }]),
        )
      : {},
  };
  const walk = (given.walk ?? []).map(([knobs, past, floor], i): Trial => ({
    id: String(i),
    at: 100 + i,
    source: floor ? 'floor' : 'try',
    version: 2,
    knobs: Object.entries(knobs).map(([name, value]) => ({ name, value, unit: '%' })),
    shape: 0,
    results: { past },
    kept: past >= 0 && past <= 24,
    runs: 1,
    said: '',
  }));
  const predictions = (given.predictions ?? []).map(([said, came], i) => ({ said, came, at: 70 + i }));
  return { ...withRecord(evidence), walk, predictions };
}

const proved = [50, 50, 'proved'] as [number, number, Proof['verdict']];
const head = 'sensor floor is light on K3\n';
const stopScript = `${head}drive 30 %\nwait until floor < threshold\nstop`;

/** A work, and what a good teacher would say that it shows of a skill; null: nothing either way. */
const cases: [says: string, given: Given, skill: string, wanted: Weight | null][] = [
  ['nothing at all', { lesson: 'tide-line' }, 'reads-first', null],
  [
    'both surfaces before the first run',
    {
      lesson: 'tide-line',
      read: [
        [21, 20, 10],
        [77, 20, 20],
      ],
      tries: ['kept'],
    },
    'reads-first',
    'once',
  ],
  ['one surface of two', { lesson: 'tide-line', read: [[21, 20, 10]] }, 'reads-first', 'tried'],
  [
    'two looks at each are no reading',
    {
      lesson: 'tide-line',
      read: [
        [21, 2, 10],
        [77, 2, 20],
      ],
    },
    'reads-first',
    'tried',
  ],
  [
    'read only after it ran',
    {
      lesson: 'tide-line',
      script: stopScript,
      read: [
        [21, 20, 70],
        [77, 20, 71],
      ],
      tries: ['broken'],
    },
    'reads-first',
    'tried',
  ],
  ['a script and no reading', { lesson: 'tide-line', script: stopScript }, 'reads-first', 'tried'],
  [
    'a lesson that reads nothing says nothing',
    { lesson: 'bump-and-turn', script: 'model', proof: proved },
    'reads-first',
    null,
  ],

  [
    'halfway between two far surfaces',
    {
      lesson: 'tide-line',
      read: [
        [21, 20, 10],
        [77, 20, 20],
      ],
      threshold: 49,
    },
    'decides',
    'once',
  ],
  [
    'on the rim of one surface',
    {
      lesson: 'tide-line',
      read: [
        [21, 20, 10],
        [77, 20, 20],
      ],
      threshold: 22,
    },
    'decides',
    'tried',
  ],
  ['a threshold without readings', { lesson: 'tide-line', threshold: 50 }, 'decides', null],
  [
    'outside of both surfaces',
    {
      lesson: 'tide-line',
      read: [
        [21, 20, 10],
        [77, 20, 20],
      ],
      threshold: 95,
    },
    'decides',
    'tried',
  ],

  ['proved', { lesson: 'tide-line', script: stopScript, proof: proved }, 'stops', 'firm'],
  [
    'proved, and three times on the floor',
    { lesson: 'tide-line', script: stopScript, proof: proved, floor: ['kept', 'kept', 'kept'] },
    'stops',
    'unkind',
  ],
  [
    'proved, and broken once on the floor',
    { lesson: 'tide-line', script: stopScript, proof: proved, floor: ['kept', 'broken', 'kept'] },
    'stops',
    'firm',
  ],
  [
    'broken first, then kept three times',
    { lesson: 'tide-line', script: stopScript, proof: proved, floor: ['broken', 'kept', 'kept', 'kept'] },
    'stops',
    'unkind',
  ],
  ['one lucky run', { lesson: 'tide-line', script: stopScript, tries: ['kept'] }, 'stops', 'once'],
  ['one run that broke', { lesson: 'tide-line', script: stopScript, tries: ['broken'] }, 'stops', 'tried'],
  [
    'shaky is not shown',
    { lesson: 'tide-line', script: stopScript, proof: [15, 20, 'shaky'] },
    'stops',
    'tried',
  ],
  [
    'a proof of an older script says nothing of this one',
    { lesson: 'tide-line', script: stopScript, proof: proved, oldProof: true, tries: ['kept'] },
    'stops',
    'once',
  ],
  [
    'no script, nothing to say',
    {
      lesson: 'tide-line',
      read: [
        [21, 20, 10],
        [77, 20, 20],
      ],
    },
    'stops',
    null,
  ],
  [
    'a lesson without a stop does not ask',
    { lesson: 'follow-the-channel', script: 'model', proof: proved },
    'stops',
    null,
  ],

  ['waits for something sensed', { lesson: 'tide-line', script: stopScript, proof: proved }, 'loops', 'firm'],
  [
    'a fixed way waits for nothing',
    { lesson: 'tide-line', script: 'drive 30 % for 48 cm\nstop', proof: proved },
    'loops',
    null,
  ],
  ['counts, proved', { lesson: 'count-the-lanes', script: 'model', proof: proved }, 'counts', 'firm'],
  [
    'counts, fails',
    { lesson: 'count-the-lanes', script: 'model', proof: [0, 50, 'fails'] },
    'counts',
    'tried',
  ],
  ['follows, proved', { lesson: 'follow-the-channel', script: 'model', proof: proved }, 'follows', 'firm'],
  [
    'loses the line',
    { lesson: 'follow-the-channel', script: 'model', proof: [3, 50, 'fails'] },
    'follows',
    'tried',
  ],
  [
    'two states are two rules, no order of three',
    {
      lesson: 'follow-the-channel',
      script:
        'sensor floor is light on K3\nrepeat\n  if floor > 50\n    wheels 40 % and 20 %\n  else\n    wheels 20 % and 40 %\n  end\nend',
      proof: proved,
    },
    'orders',
    null,
  ],
  [
    'always to the same side compares nothing',
    {
      lesson: 'look-both-ways',
      script: 'turn left 90 deg\ndrive 30 % for 50 cm\nstop',
      proof: [25, 50, 'shaky'],
    },
    'compares',
    'tried',
  ],
  ['turns by its heading', { lesson: 'hold-a-bearing', script: 'model', proof: proved }, 'turns', 'firm'],
  [
    'turned by time, though it came out',
    { lesson: 'hold-a-bearing', script: 'spin right at 20 % for 1 s\nstop', proof: proved },
    'turns',
    'tried',
  ],
  ['compares two readings', { lesson: 'look-both-ways', script: 'model', proof: proved }, 'compares', 'firm'],
  ['three rules in one loop', { lesson: 'harbour-rules', script: 'model', proof: proved }, 'orders', 'firm'],
  [
    'a plain stop is no order of rules',
    { lesson: 'tide-line', script: stopScript, proof: proved },
    'orders',
    null,
  ],

  [
    'three predictions of four',
    {
      lesson: 'tide-line',
      predictions: [
        [12, 13],
        [14, 14],
        [16, 15],
        [40, 12],
      ],
    },
    'predicts',
    'firm',
  ],
  [
    'one of two',
    {
      lesson: 'tide-line',
      predictions: [
        [12, 13],
        [40, 12],
      ],
    },
    'predicts',
    'once',
  ],
  ['none came true', { lesson: 'tide-line', predictions: [[90, 13]] }, 'predicts', 'tried'],
  ['nothing predicted', { lesson: 'tide-line', script: stopScript, tries: ['kept'] }, 'predicts', null],

  [
    '60, 45, 30, 25: one thing at a time',
    {
      lesson: 'tide-line',
      walk: [
        [{ speed: 60 }, 40],
        [{ speed: 45 }, 30],
        [{ speed: 30 }, 26],
        [{ speed: 25 }, 14],
      ],
    },
    'tunes',
    'once',
  ],
  [
    'the same on the floor',
    {
      lesson: 'tide-line',
      walk: [
        [{ speed: 60 }, 40, true],
        [{ speed: 45 }, 30, true],
        [{ speed: 30 }, 26, true],
        [{ speed: 25 }, 14, true],
      ],
    },
    'tunes',
    'unkind',
  ],
  [
    'two at once',
    {
      lesson: 'tide-line',
      walk: [
        [{ speed: 60, wait: 1 }, 40],
        [{ speed: 45, wait: 2 }, 30],
        [{ speed: 30, wait: 2 }, 26],
        [{ speed: 25, wait: 2 }, 14],
      ],
    },
    'tunes',
    'tried',
  ],
  [
    'never arrived',
    {
      lesson: 'tide-line',
      walk: [
        [{ speed: 60 }, 60],
        [{ speed: 55 }, 50],
        [{ speed: 50 }, 45],
        [{ speed: 45 }, 40],
      ],
    },
    'tunes',
    'tried',
  ],
  [
    'three trials are no walk',
    {
      lesson: 'tide-line',
      walk: [
        [{ speed: 60 }, 40],
        [{ speed: 45 }, 30],
        [{ speed: 25 }, 14],
      ],
    },
    'tunes',
    null,
  ],
  [
    'the same again four times is no tuning',
    {
      lesson: 'tide-line',
      walk: [
        [{ speed: 25 }, 14],
        [{ speed: 25 }, 14],
        [{ speed: 25 }, 14],
        [{ speed: 25 }, 14],
      ],
    },
    'tunes',
    null,
  ],

  [
    'a sentence in own words',
    {
      lesson: 'tide-line',
      reflect: 'It stopped too late because it looks only every twentieth of a second.',
    },
    'explains',
    'once',
  ],
  ['“ok” explains nothing', { lesson: 'tide-line', reflect: 'ok' }, 'explains', 'tried'],
  ['nothing written', { lesson: 'tide-line', script: stopScript }, 'explains', null],
];

describe('what a work shows, as a good teacher would say', () => {
  it.each(cases)('%s', (_, given, skill, wanted) => {
    const found = evidenceOf(workOf(given)).filter((one) => one.skill === skill);
    expect(found.map(({ weight }) => weight)).toEqual(wanted === null ? [] : [wanted]);
    for (const one of found) {
      expect(one.says).not.toBe('');
      expect([one.lesson.slug, one.hour]).toEqual([given.lesson, 7]);
    }
  });

  it('every skill has a case that shows it and one that does not', () => {
    for (const { id } of skills) {
      const mine = cases.filter(([, , skill]) => skill === id).map(([, , , wanted]) => wanted);
      expect([id, mine.some((one) => one !== null && one !== 'tried')]).toEqual([id, true]);
      expect([id, mine.some((one) => one === null || one === 'tried')]).toEqual([id, true]);
    }
  });
});

const seen = (weight: Weight, at = 0, lesson = 'a', hour: number | null = 1): SkillEvidence => ({
  skill: 'stops',
  weight,
  at,
  says: '',
  lesson: { slug: lesson, title: lesson },
  hour,
});

describe('where a team stands', () => {
  it.each([
    ['nothing tried', [], 'cannot tell'],
    ['tried, never shown', [seen('tried'), seen('tried', 1, 'b')], 'not yet'],
    ['once', [seen('once')], 'seen once'],
    ['twice in one work is still once', [seen('once'), seen('once', 1)], 'seen once'],
    ['in two lessons', [seen('once'), seen('once', 1, 'b')], 'shown'],
    ['in two hours of one lesson', [seen('once'), seen('once', 1, 'a', 2)], 'shown'],
    ['proved', [seen('firm')], 'shown'],
    ['proved and on the floor', [seen('unkind')], 'shown in unkind conditions'],
    ['shown, and failed later', [seen('firm'), seen('tried', 9, 'b')], 'shown'],
  ] as const)('%s', (_, evidence, wanted) => expect(standingOf(evidence)).toBe(wanted));

  it('fades rather than vanishes, is as fresh as the last time it was shown, and a failure does not freshen it', () => {
    const old = [seen('firm', 0), seen('tried', LONG_AGO_MS)];
    expect(shownOf(old, LONG_AGO_MS + 1)).toMatchObject({ standing: 'shown', longAgo: true, lastAt: 0 });
    expect(shownOf([...old, seen('once', LONG_AGO_MS)], LONG_AGO_MS + 1).longAgo).toBe(false);
    expect(shownOf([], 5)).toMatchObject({ standing: 'cannot tell', longAgo: false, lastAt: null });
  });

  it('a teacher’s word stands beside what was computed, which stays to be read', () => {
    const overruled = { standing: 'not yet', reason: 'it was copied', by: 'Demo Teacher', at: 50 } as const;
    expect(shownOf([seen('firm', 10)], 60, overruled)).toMatchObject({
      standing: 'not yet',
      computed: 'shown',
      overruled,
      lastAt: 50,
    });
  });

  it('of a class is counted over teams, those that never tried apart', () => {
    expect(ofClass('stops', ['shown', 'seen once', 'not yet', 'cannot tell'])).toEqual({
      skill: 'stops',
      have: 2,
      tried: 3,
      teams: 4,
    });
  });
});

describe('the skills that a lesson lets a team show', () => {
  it('are told of every shipped lesson, and every skill has a lesson', () => {
    const asked = new Map(harbourLessons.map((lesson) => [lesson.slug, skillsAsked(lesson)]));
    expect(asked.get('tide-line')).toEqual([
      'reads-first',
      'decides',
      'loops',
      'stops',
      'predicts',
      'tunes',
      'explains',
    ]);
    expect(asked.get('hold-a-bearing')).toContain('turns');
    expect(asked.get('bump-and-turn')).not.toContain('reads-first');
    for (const { id } of skills)
      expect([id, [...asked.values()].some((some) => some.includes(id))]).toEqual([id, true]);
    for (const [slug, some] of asked) expect([slug, some.length > 0]).toEqual([slug, true]);
  });

  it('a lesson whose answer is what it asks for shows each of them when it is done', () => {
    for (const lesson of usualLessons) {
      const shown = evidenceOf(workOf({ lesson: lesson.slug, script: 'model', proof: proved })).filter(
        ({ weight }) => weight === 'firm',
      );
      const byScript = ['stops', 'loops', 'counts', 'follows', 'turns', 'compares', 'orders'];
      expect([lesson.slug, shown.map(({ skill }) => skill).sort()]).toEqual([
        lesson.slug,
        skillsAsked(lesson)
          .filter((id) => byScript.includes(id))
          .sort(),
      ]);
    }
  });
});

describe('the map of skills', () => {
  it('stands each right of all that should come before it, and survives a circle', () => {
    const columns = skillColumns(skills);
    for (const { id, needs } of skills)
      for (const need of needs) expect(columns.get(id)!).toBeGreaterThan(columns.get(need)!);
    const circle = skillColumns([
      { id: 'a', name: 'a', shows: '', needs: ['b'] },
      { id: 'b', name: 'b', shows: '', needs: ['a', 'nothing'] },
    ]);
    expect([...circle.values()].every((column) => column >= 0)).toBe(true);
  });
});

describe('the record of a class', () => {
  let demo: DemoApp;
  beforeAll(async () => {
    demo = await demoApp({ now: NOW });
  });
  afterAll(() => demo.close());

  interface Body {
    works: number;
    teams: {
      id: number;
      name: string;
      evidence: SkillEvidence[];
      overruled: Record<string, { standing: string; by: string }>;
    }[];
  }
  const asked = async (): Promise<Body> =>
    (await demo.api.get('/api/classes/1/skills').expect(200)).body as Body;

  it('is computed from every hour of the class, each piece with its lesson and date', async () => {
    const { works, teams } = await asked();
    expect(works).toBeGreaterThan(10);
    const gannet = teams.find(({ name }) => name === 'Gannet')!;
    const of = (skill: string) => gannet.evidence.filter((one) => one.skill === skill);
    expect(standingOf(of('stops'))).toBe('shown in unkind conditions');
    expect(new Set(of('loops').map(({ lesson }) => lesson.slug))).toEqual(
      new Set(['tide-line', 'bump-and-turn', 'hold-a-bearing']),
    );
    expect(standingOf(of('counts'))).toBe('cannot tell');
    // The team that forgot the stop has not shown it.
    const fulmar = teams.find(({ name }) => name === 'Fulmar')!;
    expect(standingOf(fulmar.evidence.filter((one) => one.skill === 'stops'))).toBe('not yet');
  });

  it('a teacher says otherwise with a reason, says it anew, and takes it back', async () => {
    const url = '/api/teams/4/skills/stops';
    await demo.api.put(url).send({ standing: 'shown', reason: ' ' }).expect(422);
    await demo.api.put(url).send({ standing: 'brilliant', reason: 'I saw it' }).expect(422);
    await demo.api.put('/api/teams/4/skills/flying').send({ standing: 'shown', reason: 'x' }).expect(404);
    await demo.api.put('/api/teams/424242/skills/stops').send({ standing: 'shown', reason: 'x' }).expect(404);
    await demo.api.put(url).send({ standing: 'seen once', reason: 'I saw it on the floor' }).expect(200);
    await demo.api.put(url).send({ standing: 'shown', reason: 'again, from start C' }).expect(200);
    const fulmar = (await asked()).teams.find(({ id }) => id === 4)!;
    expect(fulmar.overruled.stops).toMatchObject({ standing: 'shown', by: 'Demo Teacher' });
    await demo.api.delete(url).expect(204);
    expect((await asked()).teams.find(({ id }) => id === 4)!.overruled).toEqual({});
    await demo.api.delete(url).expect(404);
    // What was said stays in the table.
    const [{ n }] = (await demo.db.query<{ n: number }>(
      'select count(*)::int as n from skill_overrulings',
    )) as [{ n: number }];
    expect(n).toBe(2);
  });

  it('the logbook of a team has all its work in order, with what it shows, and no model answer is asked of it', async () => {
    const { body } = await demo.api.get('/api/teams/1/logbook').expect(200);
    const book = body as {
      team: { name: string };
      pieces: {
        evidence: { hour: { at: number } | null; lesson: { slug: string }; script: object | null };
        walk: unknown[];
        shown: SkillEvidence[];
      }[];
    };
    expect(book.team.name).toBe('Gannet');
    const hours = book.pieces.map(({ evidence }) => evidence.hour?.at ?? 0);
    expect([...hours].sort((a, b) => a - b)).toEqual(hours);
    const tide = book.pieces.find(({ evidence }) => evidence.lesson.slug === 'tide-line')!;
    expect(tide.evidence.script).not.toBeNull();
    expect(tide.walk.length).toBeGreaterThan(3);
    // It says the same as the record of the class.
    const own = (await asked()).teams.find(({ id }) => id === 1)!.evidence;
    expect(book.pieces.flatMap(({ shown }) => shown)).toEqual(own);
    await demo.api.get('/api/teams/424242/logbook').expect(404);
    const team = await demo.as({ team: 1 });
    await team.get('/api/teams/1/logbook').expect(403);
    await team.get('/api/classes/1/skills').expect(403);
  });

  it('a class that is not there is none, and an empty one is empty', async () => {
    await demo.api.get('/api/classes/424242/skills').expect(404);
    const made = await demo.api.post('/api/classes').send({ school: 'S', name: '9 Empty', teams: [] });
    if (made.status === 201) {
      const { body } = await demo.api
        .get(`/api/classes/${(made.body as { id: number }).id}/skills`)
        .expect(200);
      expect(body).toMatchObject({ works: 0, teams: [] });
    }
  });
});
