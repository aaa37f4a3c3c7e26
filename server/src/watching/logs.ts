import { pino, type DestinationStream, type Logger } from 'pino';
import { stateOf } from '../db/database.ts';

/** What may be told of an error: a database puts the values of a row beside its sentence, and those are people's. */
function shownError(error: unknown): object & { message: string } {
  if (!(error instanceof Error)) return { message: 'something that is no error' };
  const state = stateOf(error);
  const shown = {
    type: error.name,
    ...(state ? { state } : {}),
    // In its sentences values stand in quotation marks, and so do names of tables; both go.
    message: state ? error.message.replaceAll(/"[^"]*"/g, '"…"') : error.message,
    stack: error.stack
      ?.split('\n')
      .slice(1, 12)
      .map((line) => line.trim()),
    ...(error.cause ? { cause: shownError(error.cause) } : {}),
  };
  return shown;
}

/**
 * The log: lines of JSON with a time, a level, and what happened. No names, texts, tokens or addresses of people are in it: of a request
 * its route as the contract writes it, of a statement its text without values, of an error its kind and where it arose.
 */
export const logTo = (level: string, to?: DestinationStream): Logger =>
  pino(
    {
      level,
      base: { server: process.pid },
      timestamp: pino.stdTimeFunctions.isoTime,
      hooks: {
        // Left to itself it would take the error's own sentence.
        logMethod(given, method) {
          const [first] = given as [unknown];
          if (!(first instanceof Error)) return method.apply(this, given);
          const err = shownError(first);
          return method.apply(this, [{ err }, err.message]);
        },
      },
    },
    ...((to ? [to] : []) as [DestinationStream]),
  );
