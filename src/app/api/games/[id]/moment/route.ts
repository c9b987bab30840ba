import { glimpseMoment } from '@/contract/library';
import { mainLine, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { findGame } from '@/server/games';
import { refuse, serve } from '../../../guard';

/** The position before a move. */
export const GET = serve(glimpseMoment, async ({ owner, id, query: { ply } }) => {
  const game = await findGame(owner, id);
  if (!game) refuse(404, 'missing');
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const line = mainLine(tree).slice(0, ply);
  const node = line[ply - 1];
  if (!node) refuse(404, 'missing');
  const before = positionsAlong(ruleset, tree.start, line.slice(0, -1)).at(-1)!;
  const last = line[ply - 2];
  return {
    position: ruleset.write(before),
    move: ruleset.text(before, node.move),
    last: last ? ruleset.code(last.move) : null,
  };
});
