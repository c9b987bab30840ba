import pino, { type Logger } from 'pino';
import { settings } from './settings';

let root: Logger | null = null;

/** A logger whose lines (JSON, to standard error) carry the name of the part that speaks. */
export function logger(part: string): Logger {
  root ??= pino({ level: settings().logLevel, base: null }, pino.destination(2));
  return root.child({ part });
}
