import pg from 'pg';
import type { Wire } from './database.ts';

/** A lost connection is tried again after so long, ms. */
const AGAIN_MS = 500;
/** A connection that hears nothing is asked this often whether it still stands, ms: one that was cut off says nothing. */
const ASK_MS = 10_000;

/** Listens on connections of their own, one a channel: a pool's are given back, and forget what they listened to. */
export const wireOf = (url: string, log: (error: unknown) => void = () => undefined): Wire => ({
  async listen(channel, heard, back) {
    let ended = false;
    let client: pg.Client | null = null;
    let timer: NodeJS.Timeout | undefined;

    async function connect(): Promise<void> {
      const next = new pg.Client({
        connectionString: url,
        application_name: `vigilum ${channel}`,
        keepAlive: true,
        connectionTimeoutMillis: AGAIN_MS * 10,
        query_timeout: ASK_MS,
      });
      let gone = false;
      const lost = (error?: unknown) => {
        if (gone) return;
        gone = true;
        clearInterval(timer);
        if (error) log(error);
        void next.end().catch(() => undefined);
        if (!ended) setTimeout(() => void again(), AGAIN_MS).unref();
      };
      next.on('error', lost);
      next.on('end', () => lost());
      next.on('notification', ({ payload }) => heard(payload ?? ''));
      try {
        await next.connect();
        await next.query(`listen "${channel}"`);
      } catch (error) {
        gone = true;
        void next.end().catch(() => undefined);
        throw error;
      }
      client = next;
      timer = setInterval(() => void next.query('select 1').catch(lost), ASK_MS);
      timer.unref();
      back();
    }

    async function again(): Promise<void> {
      if (ended) return;
      try {
        await connect();
      } catch {
        setTimeout(() => void again(), AGAIN_MS).unref();
      }
    }

    await connect();
    return async () => {
      ended = true;
      clearInterval(timer);
      await client?.end().catch(() => undefined);
    };
  },
});
