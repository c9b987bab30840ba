import pino, { type Logger } from 'pino';
import { settings } from './settings';
import { toldError } from './told-error';

let root: Logger | null = null;

/** A logger whose lines (JSON, to standard error) carry the name of the part that speaks. */
export function logger(part: string): Logger {
  root ??= pino(
    { level: settings().logLevel, base: null, serializers: { err: toldError } },
    pino.destination(2),
  );
  return root.child({ part });
}
