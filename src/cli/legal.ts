import { createInterface } from 'node:readline';
import { PositionError, type Status, type Position } from '@/core/game/ruleset';
import { kindOfPosition, rulesetOf } from '@/core/rulesets';
import { EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import { complain, print } from './print';

const statusText = (status: Status): string => (status.state === 'over' ? status.end : 'ongoing');

/** `legal`: the legal moves of a position, or of each line of standard input. */
export async function legal(position: string | undefined, json: boolean): Promise<number> {
  if (position === undefined) throw usageError('Say which position, or - for standard input.');
  if (position !== '-') return (await legalOf(position, json)) ? EXIT.done : EXIT.problems;
  let clean = true;
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
    if (line.trim() !== '') clean = (await legalOf(line, json)) && clean;
  return clean ? EXIT.done : EXIT.problems;
}

async function legalOf(text: string, json: boolean): Promise<boolean> {
  const kind = kindOfPosition(text);
  const ruleset = rulesetOf(kind);
  let position: Position;
  try {
    position = ruleset.start(text.trim());
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    const said = await sayProblem(error);
    complain(`${text.trim()}: ${said}`);
    if (json) print(JSON.stringify({ position: text.trim(), kind, error: said }));
    return false;
  }
  const moves = ruleset
    .moves(position)
    .map((move) => ({ move: ruleset.code(move), text: ruleset.text(position, move) }))
    .sort((a, b) => (a.move < b.move ? -1 : 1));
  const answer = {
    position: text.trim(),
    kind,
    inCheck: ruleset.inCheck(position),
    status: statusText(ruleset.status(position, [])),
    moves,
  };
  if (json) print(JSON.stringify(answer));
  else {
    const state = `${answer.status}${answer.inCheck ? ', in check' : ''}`;
    print(`${moves.length} legal moves (${state})`);
    for (const { move, text: written } of moves) print(`${move}\t${written}`);
  }
  return true;
}
