import { NULL_MOVE, type Move } from '../game/move';
import type { Result } from '../game/result';
import type { Ruleset, Side } from '../game/ruleset';
import { gamesIn, NO_SCORE, outcomeFor, shareOf, type Score } from '../game/score-share';
import { ROOT, TreeBuilder, type GameTree, type NodeId } from '../game/tree';

/** A game that a player has played from the ordinary start. */
export interface PlayedGame {
  moves: readonly Move[];
  result: Result;
}

/** Which of a player's own moves become prepared ones. */
export interface Worth {
  /** Games in which a move came up, at least; replies of opponents too. */
  games: number;
  /** Points of 100 that one's move came to, at least. */
  share: number;
  /** Half moves. */
  plies: number;
}

interface Met {
  move: Move;
  games: number;
  score: Score;
  next: Map<Move, Met>;
}

const met = (move: Move): Met => ({ move, games: 0, score: { ...NO_SCORE }, next: new Map() });

/**
 * Lines of a player's own games that are worth keeping: of each position the own move that was played most among those that came to
 * enough, and the replies that came up often enough and have such an answer.
 */
export function linesOfGames(
  ruleset: Ruleset,
  side: Side,
  games: readonly PlayedGame[],
  worth: Worth,
): GameTree {
  const root = met(NULL_MOVE);
  for (const { moves, result } of games) {
    const outcome = outcomeFor(result, side);
    let here = root;
    for (const move of moves.slice(0, worth.plies)) {
      const next = here.next.get(move) ?? met(move);
      here.next.set(move, next);
      next.games++;
      if (outcome) next.score[outcome]++;
      here = next;
    }
  }
  const tree = new TreeBuilder(ruleset.kind, ruleset.startText);
  const toMove = ruleset.side(ruleset.start());
  const pending: [Met, NodeId][] = [[root, ROOT]];
  for (let last = pending.pop(); last; last = pending.pop()) {
    const [here, node] = last;
    const isOwn = (tree.depth(node) + toMove) % 2 === side;
    for (const next of isOwn ? ownChoice(here, worth) : repliesOf(here, worth)) {
      if (tree.fullAt(node)) return tree.build();
      pending.push([next, tree.add(node, next.move)]);
    }
  }
  return tree.build();
}

const often = (here: Met, worth: Worth): Met[] =>
  [...here.next.values()]
    .filter(({ games }) => games >= worth.games)
    .sort((a, b) => b.games - a.games);

/** The move to be kept, if any. */
const ownChoice = (here: Met, worth: Worth): Met[] =>
  often(here, worth)
    .filter(({ score }) => gamesIn(score) > 0 && shareOf(score)! >= worth.share)
    .slice(0, 1);

/** Replies that have an answer. */
const repliesOf = (here: Met, worth: Worth): Met[] =>
  often(here, worth).filter((reply) => ownChoice(reply, worth).length > 0);
