/** What may be logged and stored of an error: never the parameters of a query, which hold what people wrote. */
export interface ToldError {
  type: string;
  message: string;
  /** PostgreSQL's or Node's own name of it. */
  code?: string;
  /** The innermost places in the code. */
  frames?: string[];
}

const MOST_TOLD = 500;
const MOST_FRAMES = 12;

const plain = (text: string): string =>
  text.slice(0, MOST_TOLD).replaceAll('\0', '').toWellFormed();

/** An error from the database wraps the one that PostgreSQL gave, and repeats the query with its parameters. */
function innermost(error: Error): Error {
  return 'query' in error && error.cause instanceof Error ? innermost(error.cause) : error;
}

/** Reduces an error to what may be told of it. */
export function toldError(thrown: unknown): ToldError {
  if (!(thrown instanceof Error)) return { type: typeof thrown, message: plain(String(thrown)) };
  const error = innermost(thrown);
  const code = codeOf(error);
  // PostgreSQL quotes what it refuses behind the first colon or quotation mark
  const message = 'severity' in error ? error.message.split(/[:"]/, 1)[0]! : error.message;
  const frames = thrown.stack?.split('\n').filter((line) => /^\s+at /.test(line));
  return {
    type: error.name,
    message: plain(message),
    ...(code === '' ? {} : { code }),
    ...(frames ? { frames: frames.slice(0, MOST_FRAMES).map((line) => line.trim()) } : {}),
  };
}

/** Node's or PostgreSQL's own name of what went wrong. */
function codeOf(thrown: unknown): string {
  if (!(thrown instanceof Error)) return '';
  const error = innermost(thrown);
  return 'code' in error && typeof error.code === 'string' ? error.code : '';
}

/** There is no room on the disk: the database's, or one that this process writes on. */
export const isFullDisk = (thrown: unknown): boolean =>
  ['53100', 'ENOSPC'].includes(codeOf(thrown));

/** PostgreSQL refuses the data, not the server or the connection: another try would fail again. */
export const isRefusedData = (thrown: unknown): boolean =>
  // classes of SQLSTATE: data exception, integrity constraint, program limit
  /^(22|23|54)/.test(codeOf(thrown));
