import type { Request, Router } from 'express';
import { plainCode, spokenCode, teamPictures, type TeamPicture } from '@vigilum/core/classroom';
import { one } from '../db/database.ts';
import { everywhere, inSchool } from '../db/reach.ts';
import { classRow } from '../classes/membership.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { enter } from './accountRoutes.ts';
import { brakeOf, codeRules, pictureRules } from './device.ts';
import { whoOf } from './who.ts';

const noSuchCode = () =>
  new Problem(404, 'No such code', 'No class here has this code. Ask your teacher to read it out again.');
const voidCard = () =>
  new Problem(
    404,
    'Card is void',
    'This card does not open anything any more. Ask your teacher for a new one.',
  );

const pictureAt = (n: number): TeamPicture => teamPictures[n % teamPictures.length]!;

/** The doors of a class: its code, its teams' cards and pictures, its board. */
export function doorRoutes(services: Services): Router {
  const { db, access, now, storage } = services;
  const { sessions } = access;
  const brake = brakeOf(services);

  /** The class of a code that is in use. */
  const classOfCode = (req: Request, typed: string) =>
    brake.attempt(codeRules(req), async () => {
      // A code leads into one class of all schools.
      const [row] = await everywhere(() =>
        db.query<{ id: number; school: string; name: string; of: number }>(
          `select c.id, c.school, c.name, c.school_id as of from classes c join schools s on s.id = c.school_id
            where c.door_code = $1 and c.removed_at is null and c.archived_at is null and s.removed_at is null`,
          [plainCode(typed)],
        ),
      );
      if (!row) throw noSuchCode();
      return row;
    });
  const teamRow = async (id: string) => {
    const [row] = await db.query<{ id: number; class_id: number }>(
      'select id, class_id from teams where id = $1 and removed_at is null',
      [idFrom(id)],
    );
    if (!row) throw notFound('such team');
    return row;
  };

  return contractRouter(services, (serve) => {
    serve(
      'POST /doors',
      async ({ body: { code }, req }) => {
        const klass = await classOfCode(req, code);
        const teams = await inSchool(klass.of, () =>
          db.query<{ id: number; name: string }>(
            'select id, name from teams where class_id = $1 and removed_at is null order by id',
            [klass.id],
          ),
        );
        return { school: klass.school, class: klass.name, teams };
      },
      { status: 200, long: true },
    );

    serve(
      'POST /doors/teams',
      async ({ body: { code, team, picture }, req }) => {
        const klass = await classOfCode(req, code);
        const [row] = await inSchool(klass.of, () =>
          db.query<{ picture: number }>(
            'select picture from teams where id = $1 and class_id = $2 and removed_at is null',
            [team, klass.id],
          ),
        );
        if (!row) throw notFound('such team in this class');
        await brake.attempt(pictureRules(req, team), () => {
          if (pictureAt(row.picture) === picture) return Promise.resolve();
          throw new Problem(
            403,
            'Another picture',
            'That is not the picture of this team. It stands on your card; your teacher knows it too.',
          );
        });
        return inSchool(klass.of, () => enter(services, req, whoOf(req.res!), { team }));
      },
      { long: true },
    );

    serve(
      'POST /doors/cards',
      async ({ body: { card }, req }) => {
        // 122 random bits: nobody guesses one, so that a class at one address may come in at the same moment.
        const [row] = await everywhere(() =>
          db.query<{ team: number; of: number }>(
            `select t.id as team, t.school_id as of from teams t join classes c on c.id = t.class_id join schools s on s.id = t.school_id
              where t.card = $1 and t.removed_at is null and c.removed_at is null and c.archived_at is null and s.removed_at is null`,
            [card],
          ),
        );
        if (!row) throw voidCard();
        const { team, of } = row;
        return inSchool(of, () => enter(services, req, whoOf(req.res!), { team }));
      },
      { long: true },
    );

    serve(
      'POST /doors/boards',
      async ({ body: { board }, req }) => {
        const [klass] = await everywhere(() =>
          db.query<{ id: number; of: number }>(
            `select c.id, c.school_id as of from classes c join schools s on s.id = c.school_id
              where c.board_token = $1 and c.removed_at is null and s.removed_at is null`,
            [board],
          ),
        );
        if (!klass)
          throw new Problem(
            404,
            'Link is void',
            'This link shows no board any more. Open the new one from the page of the class.',
          );
        return inSchool(klass.of, () => enter(services, req, whoOf(req.res!), { board: klass.id }));
      },
      { long: true },
    );

    serve('GET /classes/:id/doors', async ({ params }) => {
      const klass = await classRow(db, params.id);
      if (klass.removed) throw notFound('such class');
      const own = await one<{ door_code: string; board_token: string; boards: number }>(
        db,
        `select door_code, board_token, (select count(*)::int from sessions s where s.class_id = c.id and s.until > $2) as boards
           from classes c where c.id = $1`,
        [klass.id, now().toISOString()],
      );
      const teams = await db.query<{ id: number; name: string; picture: number; card: string }>(
        'select id, name, picture, card from teams where class_id = $1 and removed_at is null order by id',
        [klass.id],
      );
      const tablets = await db.query<{ id: number; team_id: number; seen_at: Date; made_at: Date }>(
        'select id, team_id, seen_at, made_at from sessions where team_id = any($1::int[]) and until > $2 order by seen_at desc, id',
        [teams.map(({ id }) => id), now().toISOString()],
      );
      return {
        now: now().getTime(),
        school: klass.school,
        class: klass.name,
        code: spokenCode(own.door_code),
        board: own.board_token,
        boards: own.boards,
        addresses: storage?.addresses() ?? [],
        teams: teams.map((team) => ({
          ...team,
          picture: pictureAt(team.picture),
          tablets: tablets
            .filter(({ team_id }) => team_id === team.id)
            .map(({ id, seen_at, made_at }) => ({ id, seenAt: seen_at.getTime(), since: made_at.getTime() })),
        })),
      };
    });

    serve('POST /classes/:id/codes', async ({ params }) => {
      const { id } = await classRow(db, params.id);
      const row = await one<{ door_code: string }>(
        db,
        'update classes set door_code = door_code() where id = $1 returning door_code',
        [id],
      );
      return { code: spokenCode(row.door_code) };
    });
    serve('POST /classes/:id/board-links', async ({ params }) => {
      const { id } = await classRow(db, params.id);
      const row = await one<{ board_token: string }>(
        db,
        'update classes set board_token = default where id = $1 returning board_token',
        [id],
      );
      await sessions.end({ board: id });
      return { board: row.board_token };
    });

    serve('POST /teams/:id/cards', async ({ params }) => {
      const { id } = await teamRow(params.id);
      const row = await one<{ card: string; picture: number }>(
        db,
        // Another picture than before, each of the others as likely.
        `update teams set card = default, picture = (picture + 1 + floor(random() * $2::int)::int) % ($2::int + 1) where id = $1 returning card, picture`,
        [id, teamPictures.length - 1],
      );
      await sessions.end({ team: id });
      return { card: row.card, picture: pictureAt(row.picture) };
    });
    serve('DELETE /teams/:id/tablets', async ({ params }) => {
      await sessions.end({ team: (await teamRow(params.id)).id });
      return undefined;
    });
    serve('DELETE /teams/:id/tablets/:tablet', async ({ params }) => {
      await sessions.end({ team: (await teamRow(params.id)).id, tablet: idFrom(params.tablet) });
      return undefined;
    });
  });
}
