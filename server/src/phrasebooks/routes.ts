import { Router } from 'express';
import { phraseFaults, type Phrasebook } from '@vigilum/core/phrasebook';
import { parseScript } from '@vigilum/core/script';
import { notFound, Problem } from '../http/problems.ts';
import type { Services } from '../http/services.ts';
import { idFrom, validate } from '../http/validate.ts';
import { phrasebookSchema } from './phrasebookSchema.ts';

/** Phrasebooks of kits: how a kit's text language is said in the step script. */
export function phrasebookRoutes({ db, changes, now }: Services): Router {
  const router = Router();

  const sound = (body: unknown): Phrasebook => {
    const book = validate(phrasebookSchema, body);
    const [slip] = parseScript(book.declares.join('\n')).findings;
    const faults = [
      ...phraseFaults(book).map(({ phrase, says }) => ({ field: `phrases.${phrase - 1}.pattern`, says })),
      ...(slip ? [{ field: `declares.${slip.line - 1}`, says: slip.says }] : []),
    ];
    if (faults.length > 0)
      throw new Problem(422, 'Check the phrases', `Nothing was saved: ${faults[0]!.says}`, faults);
    return book;
  };
  const stored = ({ syntax, phrases, declares }: Phrasebook) =>
    [syntax, JSON.stringify({ phrases, declares }), now().toISOString()] as const;

  router.get('/kits/:slug/phrasebooks', async (req, res) => {
    const [kit] = await db.query<{ id: number }>('select id from kits where slug = $1', [req.params.slug]);
    if (!kit) throw notFound('such kit');
    const rows = await db.query<{
      id: number;
      name: string;
      syntax: Phrasebook['syntax'];
      phrases: Pick<Phrasebook, 'phrases' | 'declares'>;
    }>(
      'select id, name, syntax, phrases from phrasebooks where kit_id = $1 and removed_at is null order by name, id',
      [kit.id],
    );
    res.json({
      phrasebooks: rows.map(({ id, name, syntax, phrases }) => ({ id, book: { name, syntax, ...phrases } })),
    });
  });

  router.post('/kits/:slug/phrasebooks', async (req, res) => {
    const book = sound(req.body);
    const [row] = await db.query<{ id: number }>(
      `insert into phrasebooks (kit_id, name, syntax, phrases, changed_at)
       select id, $2, $3, $4::jsonb, $5 from kits where slug = $1 and removed_at is null returning id`,
      [req.params.slug, book.name, ...stored(book)],
    );
    if (!row) throw notFound('such kit');
    changes.tell({ what: 'kit', id: 0 });
    res.status(201).json({ id: row.id });
  });

  router.put('/phrasebooks/:id', async (req, res) => {
    const book = sound(req.body);
    const [row] = await db.query<{ id: number }>(
      `update phrasebooks set name = $2, syntax = $3, phrases = $4::jsonb, changed_at = $5
        where id = $1 and removed_at is null returning id`,
      [idFrom(req.params.id), book.name, ...stored(book)],
    );
    if (!row) throw notFound('such phrasebook');
    changes.tell({ what: 'kit', id: 0 });
    res.json({ id: row.id });
  });

  const mark = async (id: number, removedAt: string | null) => {
    const [row] = await db.query('update phrasebooks set removed_at = $2 where id = $1 returning id', [
      id,
      removedAt,
    ]);
    if (!row) throw notFound('such phrasebook');
    changes.tell({ what: 'kit', id: 0 });
  };
  router.delete('/phrasebooks/:id', async (req, res) => {
    await mark(idFrom(req.params.id), now().toISOString());
    res.status(204).end();
  });
  router.post('/phrasebooks/:id/restoration', async (req, res) => {
    await mark(idFrom(req.params.id), null);
    res.status(204).end();
  });

  return router;
}
