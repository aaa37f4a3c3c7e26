import { createReadStream, existsSync } from 'node:fs';
import { join } from 'node:path';
import { Router, type RequestHandler } from 'express';
import { mustBeAllowed } from '../access/guard.ts';
import { mustBeProved } from '../access/power.ts';
import { whoOf } from '../access/who.ts';
import { everywhere } from '../db/reach.ts';
import { reasonOf } from '../db/trouble.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { isOffice, mustBeOffice } from '../schools/schools.ts';
import { isBackupName } from './keeper.ts';

/** Who comes in and goes out is kept in memory where there is no room: reading goes on. */
const DOORS = /^\/(sessions(\/mine(\/proofs)?)?|doors(\/\w+)?)$/;

/** Nothing that changes anything is begun where there is no room for it, or where the folder is another’s by now. */
export function mayWrite({ storage }: Services): RequestHandler {
  return (req, _res, next) => {
    if (!storage || req.method === 'GET' || req.method === 'HEAD') return next();
    if (!storage.isOurs())
      throw new Problem(
        503,
        'Folder taken',
        'Nothing was saved: another Vigilum has taken over the data folder. Stop one of the two.',
      );
    const refusal = storage.room.refusal();
    if (refusal && !DOORS.test(req.path)) throw new Problem(507, 'Disk full', refusal);
    next();
  };
}

/** Where the data is, and its backups: listed, made now, saved on the machine of whoever asks. */
export function storageRoutes(services: Services): Router {
  const { storage, now } = services;
  const router = Router();
  if (!storage) return router;
  const { keeper, room, folder, addresses } = storage;
  router.use(
    contractRouter(services, (serve) => {
      serve('GET /storage', async () => {
        const free = room.freeMb();
        // A backup holds all schools.
        const office = await isOffice(services.db);
        return {
          now: now().getTime(),
          folder: office ? folder : 'of the office, which looks after it',
          shared: services.db.wire !== null,
          freeMb: Number.isFinite(free) ? free : null,
          refusal: room.refusal(),
          backupFolder: keeper.dir,
          backups: office ? keeper.list() : [],
          office,
          addresses: addresses(),
        };
      });
      const save = async () => {
        await mustBeOffice(services.db);
        try {
          return await everywhere(() => keeper.save());
        } catch (error) {
          const reason = reasonOf(error);
          if (reason === null) throw error;
          throw new Problem(
            507,
            'No backup',
            `No backup was made in ${keeper.dir}: ${reason}. Mend that, or start Vigilum with BACKUP_DIR set to another folder.`,
          );
        }
      };
      serve('POST /backups', save, { long: true });
    }),
  );
  router.get('/backups/:name', async (req, res, next) => {
    await mustBeAllowed(services.db, whoOf(res), 'GET /backups/:name', req.params, {
      query: {},
      body: undefined,
      at: now(),
    });
    await mustBeProved(services.access.sessions, whoOf(res), 'GET /backups/:name');
    await mustBeOffice(services.db);
    const { name } = req.params;
    const file = join(keeper.dir, name);
    if (!isBackupName(name) || !existsSync(file)) throw notFound('such backup');
    res.setHeader('content-type', 'application/gzip');
    res.setHeader('content-disposition', `attachment; filename="${name}"`);
    createReadStream(file).on('error', next).pipe(res);
  });
  return router;
}
