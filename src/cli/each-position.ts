import { createInterface } from 'node:readline';
import { PositionError, type Position, type Ruleset } from '@/core/game/ruleset';
import { kindOfPosition, rulesetOf } from '@/core/rulesets';
import { EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import { complain, print } from './print';

/** A position of the command line that could be read. */
export interface ReadPosition {
  text: string;
  ruleset: Ruleset;
  position: Position;
}

/**
 * Takes up a position, or for `-` each line of standard input; what is no position is told, as JSON too where that is asked for.
 * @throws CommandError where none is said
 */
export async function eachPosition(
  said: string | undefined,
  json: boolean,
  take: (read: ReadPosition) => void,
): Promise<number> {
  if (said === undefined) throw usageError('Say which position, or - for standard input.');
  if (said !== '-') return (await readOne(said, json, take)) ? EXIT.done : EXIT.problems;
  let clean = true;
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
    if (line.trim() !== '') clean = (await readOne(line, json, take)) && clean;
  return clean ? EXIT.done : EXIT.problems;
}

async function readOne(
  line: string,
  json: boolean,
  take: (read: ReadPosition) => void,
): Promise<boolean> {
  const text = line.trim();
  const kind = kindOfPosition(line);
  const ruleset = rulesetOf(kind);
  let position: Position;
  try {
    position = ruleset.start(text);
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    const problem = await sayProblem(error);
    complain(`${text}: ${problem}`);
    if (json) print(JSON.stringify({ position: text, kind, error: problem }));
    return false;
  }
  take({ text, ruleset, position });
  return true;
}
