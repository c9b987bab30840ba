import type { Status } from '@/core/game/ruleset';
import { eachPosition } from './each-position';
import { print } from './print';

const statusText = (status: Status): string => (status.state === 'over' ? status.end : 'ongoing');

/** `legal`: the legal moves of a position, or of each line of standard input. */
export const legal = (said: string | undefined, json: boolean): Promise<number> =>
  eachPosition(said, json, ({ text, ruleset, position }) => {
    const moves = ruleset
      .moves(position)
      .map((move) => ({ move: ruleset.code(move), text: ruleset.text(position, move) }))
      .sort((a, b) => (a.move < b.move ? -1 : 1));
    const answer = {
      position: text,
      kind: ruleset.kind,
      inCheck: ruleset.inCheck(position),
      status: statusText(ruleset.status(position, [])),
      moves,
    };
    if (json) return print(JSON.stringify(answer));
    const state = `${answer.status}${answer.inCheck ? ', in check' : ''}`;
    print(`${moves.length} legal moves (${state})`);
    for (const { move, text: written } of moves) print(`${move}\t${written}`);
  });
