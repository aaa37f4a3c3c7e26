import type { Router } from 'express';
import type { Proof } from '@vigilum/core/expect';
import { drawTwist, hasTwist, twistFaults, valuesInWords, type TwistValues } from '@vigilum/core/lesson';
import { Problem, notFound } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { draftOf, proveModel } from './store.ts';

/** So many draws are judged for one team before it is said that none passes. */
const DRAWS = 12;

interface VariantRow {
  team_id: number;
  team: string;
  seed: number | null;
  level: number | null;
  twist_values: TwistValues | null;
  proof: Proof | null;
}

/** Every team's own twist of a lesson: drawn from a seed, judged, and handed out only when its model answer passes. */
export function twistRoutes(services: Services): Router {
  const { db, changes, now, simulations } = services;
  return contractRouter(services, (serve) => {
    serve('GET /lessons/:slug/variants/:class', async ({ params }) => {
      const { id, definition } = await draftOf(db, params.slug);
      const rows = await db.query<VariantRow>(
        `select t.id as team_id, t.name as team, v.seed, v.level, v.twist_values, v.proof
         from teams t left join lesson_variants v on v.team_id = t.id and v.lesson_id = $1
        where t.class_id = $2 order by t.id`,
        [id, idFrom(params.class)],
      );
      return {
        variants: rows.map(({ team_id, team, seed, level, twist_values: values, proof }) => ({
          team: { id: team_id, name: team },
          seed,
          level,
          values,
          says: values && definition.twist ? valuesInWords(definition.twist, values) : '',
          proof,
        })),
      };
    });

    serve(
      'POST /lessons/:slug/variants',
      async ({ params, body }) => {
        const { classId, seed, level } = body;
        const { id, definition: lesson } = await draftOf(db, params.slug);
        if (!hasTwist(lesson))
          throw new Problem(
            409,
            'No twist',
            'This lesson is the same for every team. Add a parameter first.',
          );
        const [fault] = twistFaults(lesson);
        if (fault) throw new Problem(422, 'Twist not ready', fault);
        const teams = await db.query<{ id: number; name: string }>(
          'select id, name from teams where class_id = $1 and removed_at is null order by id',
          [classId],
        );
        if (teams.length === 0) throw notFound('such class');
        const taken = new Set<string>();
        const handed: { team: number; seed: number; values: TwistValues; proof: Proof }[] = [];
        const without: string[] = [];
        const proofs = new Map<string, Promise<Proof>>();
        const proofOf = (values: TwistValues): Promise<Proof> => {
          const key = JSON.stringify(values);
          const known = proofs.get(key);
          if (known) return known;
          const proof = proveModel(db, simulations, lesson, values);
          // Whoever asks for it is told; one that nobody comes to ask for must not end the server.
          proof.catch(() => undefined);
          proofs.set(key, proof);
          return proof;
        };
        const drawOf = (index: number, again: number) => {
          const own = (seed + index * 7919 + again * 104_729) | 0;
          const drawn = drawTwist(lesson.twist, own, level);
          if (!drawn.ok) throw new Problem(422, 'No values', `${drawn.says} ${drawn.mend}`);
          return { own, values: drawn.value };
        };
        // The first draws of all teams are judged side by side: most of them are kept.
        teams.forEach((_, index) => void proofOf(drawOf(index, 0).values));
        for (const [index, team] of teams.entries()) {
          let kept: (typeof handed)[number] | null = null;
          for (let again = 0; again < DRAWS; again++) {
            const { own, values } = drawOf(index, again);
            const proof = await proofOf(values);
            if (proof.verdict !== 'proved') continue;
            const one = { team: team.id, seed: own, values, proof };
            kept ??= one;
            if (taken.has(JSON.stringify(values))) continue;
            kept = one;
            break;
          }
          if (!kept) {
            without.push(team.name);
            continue;
          }
          taken.add(JSON.stringify(kept.values));
          handed.push(kept);
        }
        if (without.length > 0)
          throw new Problem(
            422,
            'No variant passes',
            `For ${without.join(', ')} no variant was found whose model answer is proved (${proofs.size} were judged). Nothing was handed out. Narrow the ranges, or mend the model answer.`,
          );
        const at = now().toISOString();
        await db.transaction(async (tx) => {
          for (const { team, seed: own, values, proof } of handed)
            await tx.query(
              `insert into lesson_variants (lesson_id, team_id, seed, level, twist_values, proof, handed_at)
           values ($1, $2, $3, $4, $5::jsonb, $6::jsonb, $7)
           on conflict (lesson_id, team_id) do update set seed = excluded.seed, level = excluded.level,
             twist_values = excluded.twist_values, proof = excluded.proof, handed_at = excluded.handed_at`,
              [id, team, own, level, JSON.stringify(values), JSON.stringify(proof), at],
            );
        });
        changes.tell({ what: 'class', class: classId, part: 'variants' });
        return { handed: handed.length, judged: proofs.size };
      },
      { long: true },
    );

    serve('DELETE /lessons/:slug/variants/:class', async ({ params }) => {
      const { id } = await draftOf(db, params.slug);
      const classId = idFrom(params.class);
      await db.query(
        'delete from lesson_variants where lesson_id = $1 and team_id in (select id from teams where class_id = $2)',
        [id, classId],
      );
      changes.tell({ what: 'class', class: classId, part: 'variants' });
      return undefined;
    });
  });
}
