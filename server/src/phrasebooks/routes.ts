import type { Router } from 'express';
import { phraseFaults, type Phrasebook } from '@vigilum/core/phrasebook';
import { parseScript } from '@vigilum/core/script';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { nextRevision } from '../kept/store.ts';

/** Phrasebooks of kits: how a kit's text language is said in the step script. */
export function phrasebookRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    const sound = (book: Phrasebook): Phrasebook => {
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

    serve('GET /kits/:slug/phrasebooks', async ({ params }) => {
      const [kit] = await db.query<{ id: number }>('select id from kits where slug = $1', [params.slug]);
      if (!kit) throw notFound('such kit');
      const rows = await db.query<{
        id: number;
        name: string;
        syntax: Phrasebook['syntax'];
        phrases: Pick<Phrasebook, 'phrases' | 'declares'>;
        revision: number;
      }>(
        'select id, name, syntax, phrases, revision from phrasebooks where kit_id = $1 and removed_at is null order by name, id',
        [kit.id],
      );
      return {
        phrasebooks: rows.map(({ id, name, syntax, phrases, revision }) => ({
          id,
          revision,
          book: { name, syntax, ...phrases },
        })),
      };
    });

    serve('POST /kits/:slug/phrasebooks', async ({ params, body }) => {
      const book = sound(body);
      const [row] = await db.query<{ id: number }>(
        `insert into phrasebooks (kit_id, name, syntax, phrases, changed_at)
       select id, $2, $3, $4::jsonb, $5 from kits where slug = $1 and removed_at is null returning id`,
        [params.slug, book.name, ...stored(book)],
      );
      if (!row) throw notFound('such kit');
      changes.tell({ what: 'phrasebook', kit: params.slug });
      return { id: row.id };
    });

    serve('PUT /phrasebooks/:id', async ({ params, body }) => {
      const book = sound(body.book);
      const id = idFrom(params.id);
      const at = now();
      const { revision, kit } = await db.transaction(async (tx) => {
        const [row] = await tx.query<{
          name: string;
          syntax: Phrasebook['syntax'];
          phrases: Pick<Phrasebook, 'phrases' | 'declares'>;
          revision: number;
          kit: string;
        }>(
          `select p.name, p.syntax, p.phrases, p.revision, k.slug as kit from phrasebooks p join kits k on k.id = p.kit_id
            where p.id = $1 and p.removed_at is null for update of p`,
          [id],
        );
        if (!row) throw notFound('such phrasebook');
        const next = await nextRevision(tx, {
          kind: 'phrasebook',
          table: 'phrasebooks',
          id,
          key: String(id),
          what: 'this phrasebook',
          before: { revision: row.revision, value: { name: row.name, syntax: row.syntax, ...row.phrases } },
          from: body.revision,
          value: book,
          note: body.note ?? '',
          at,
        });
        await tx.query(
          'update phrasebooks set name = $2, syntax = $3, phrases = $4::jsonb, changed_at = $5 where id = $1',
          [id, book.name, ...stored(book)],
        );
        return { revision: next, kit: row.kit };
      });
      changes.tell({ what: 'phrasebook', kit });
      return { id, revision };
    });

    const mark = async (id: number, removedAt: string | null) => {
      const [row] = await db.query<{ kit: string }>(
        `update phrasebooks p set removed_at = $2 from kits k where p.id = $1 and k.id = p.kit_id returning k.slug as kit`,
        [id, removedAt],
      );
      if (!row) throw notFound('such phrasebook');
      changes.tell({ what: 'phrasebook', kit: row.kit });
    };
    serve('DELETE /phrasebooks/:id', async ({ params }) => {
      await mark(idFrom(params.id), now().toISOString());
      return undefined;
    });
    serve('POST /phrasebooks/:id/restoration', async ({ params }) => {
      await mark(idFrom(params.id), null);
      return undefined;
    });
  });
}
