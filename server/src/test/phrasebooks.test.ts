import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { carryOver, phraseFaults } from '@vigilum/core/phrasebook';
import { parseScript } from '@vigilum/core/script';
import { phrasebookSchema } from '@vigilum/contract/files';
import { cobbleTalk } from '../starter/cobbleTalk.ts';
import { demoApp, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
});
afterAll(async () => {
  expect(demo.logged).toEqual([]);
  await demo.close();
});

describe('phrasebooks as files', () => {
  it('are judged alike by the published schema and by the server', () => {
    const file = join(import.meta.dirname, '../../../docs/schemas/phrasebook.schema.json');
    const validate = new Ajv2020({ allErrors: true }).compile(
      JSON.parse(readFileSync(file, 'utf8')) as object,
    );
    const bad: ((book: typeof cobbleTalk & Record<string, unknown>) => void)[] = [
      (b) => (b.syntax = 'ruby' as 'c'),
      (b) => (b.name = ' '),
      (b) => (b.owner = 'me'),
      (b) => (b.phrases[0]!.says = ''),
      (b) => (b.phrases = Array.from({ length: 201 }, () => ({ pattern: 'a()', says: 'stop' }))),
      (b) => delete (b as Partial<typeof cobbleTalk>).declares,
    ];
    expect([validate(cobbleTalk), phrasebookSchema.validate(cobbleTalk).error]).toEqual([true, undefined]);
    for (const slip of bad) {
      const book = structuredClone(cobbleTalk) as typeof cobbleTalk & Record<string, unknown>;
      slip(book);
      const ours = phrasebookSchema.validate(book, { convert: false }).error === undefined;
      expect([validate(book), ours]).toEqual([false, false]);
    }
  });

  it('that ship read well, and carry over a program of the demo kit', () => {
    expect(phraseFaults(cobbleTalk)).toEqual([]);
    const { text, left } = carryOver(
      'move(ahead, 30)\nwhile room_ahead() > 15:\n    pause(0.1)\nhalt()\nturn_left(90)\ntell("there", bearing())\n',
      cobbleTalk,
    );
    expect(left).toEqual([]);
    expect(parseScript(text).findings).toEqual([]);
  });
});

describe('phrasebooks on the server', () => {
  const book = { name: 'Mine', syntax: 'c', declares: [], phrases: [{ pattern: 'halt()', says: 'stop' }] };
  type Books = { phrasebooks: { id: number; book: { name: string } }[] };
  const names = async () =>
    ((await demo.api.get('/api/kits/cobble/phrasebooks').expect(200)).body as Books).phrasebooks.map(
      (b) => b.book.name,
    );

  it('are added, changed, removed and brought back', async () => {
    const { id } = (await demo.api.post('/api/kits/cobble/phrasebooks').send(book).expect(201)).body as {
      id: number;
    };
    await demo.api
      .put(`/api/phrasebooks/${id}`)
      .send({ revision: 1, book: { ...book, name: 'Ours' } })
      .expect(200);
    expect(await names()).toEqual(['Cobble talk', 'Ours']);
    await demo.api.delete(`/api/phrasebooks/${id}`).expect(204);
    expect(await names()).toEqual(['Cobble talk']);
    await demo.api.post(`/api/phrasebooks/${id}/restoration`).send({}).expect(204);
    expect(await names()).toEqual(['Cobble talk', 'Ours']);
    await demo.api.delete(`/api/phrasebooks/${id}`).expect(204);
  });

  it('are refused with the phrase that is none, and change nothing', async () => {
    const bad = {
      ...book,
      phrases: [...book.phrases, { pattern: 'go(', says: 'stop' }],
      declares: ['sensor x is lihgt on K3'],
    };
    const { body } = await demo.api.post('/api/kits/cobble/phrasebooks').send(bad).expect(422);
    expect(body).toMatchObject({ fields: [{ field: 'phrases.1.pattern' }, { field: 'declares.0' }] });
    await demo.api.post('/api/kits/raft/phrasebooks').send(book).expect(404);
    await demo.api.put('/api/phrasebooks/999').send({ revision: 1, book }).expect(404);
    await demo.api.get('/api/kits/raft/phrasebooks').expect(404);
    expect(await names()).toEqual(['Cobble talk']);
  });
});
