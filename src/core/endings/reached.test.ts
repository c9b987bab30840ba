import { describe, expect, it } from 'vitest';
import { mainLineOf } from '../../../tests/support/lines';
import { chess } from '../chess/ruleset';
import { mainLine, positionsAlong } from '../game/tree';
import { endingsReached, turnedName } from './reached';

/** The endings that moves from a position come to. */
function reached(start: string, ...codes: string[]) {
  const moves = codes.map((code) => chess.parseCode(code)!);
  const positions = moves.reduce(
    (line, move) => [...line, chess.play(line.at(-1)!, move)],
    [chess.start(start)],
  );
  return endingsReached(positions, moves);
}

describe('endings that a game came to', () => {
  it('are none where too many men are left', () => {
    const { tree } = mainLineOf('chess', ['e2e4', 'e7e5']);
    const line = mainLine(tree);
    const positions = positionsAlong(chess, tree.start, line);
    expect(
      endingsReached(
        positions,
        line.map(({ move }) => move),
      ),
    ).toEqual([]);
    // seven men, and six
    expect(reached('4k3/3ppp2/8/8/8/8/4PP2/4K3 w - - 0 1')).toEqual([]);
    expect(reached('4k3/3pp3/8/8/8/8/4PP2/4K3 w - - 0 1')).toEqual([
      { ply: 0, name: 'KPP KPP', isPassing: false },
    ]);
  });

  it('begin with a capture or a promotion, and have the stronger pieces first', () => {
    expect(
      reached('8/P6k/8/8/8/8/r7/K2R4 w - - 0 1', 'a1a2', 'h7g7', 'a7a8q', 'g7f7', 'd1d2'),
    ).toEqual([
      { ply: 0, name: 'KRP KR', isPassing: false },
      { ply: 1, name: 'KRP K', isPassing: false },
      { ply: 3, name: 'KQR K', isPassing: false },
    ]);
  });

  it('are passing in the middle of an exchange', () => {
    const exchange = reached('8/8/8/8/3rk3/8/3PK3/3R4 w - - 0 1', 'd1c1', 'd4d2', 'e2d2', 'e4e5');
    expect(exchange).toEqual([
      { ply: 0, name: 'KRP KR', isPassing: false },
      { ply: 2, name: 'KR KR', isPassing: true },
      { ply: 3, name: 'KR K', isPassing: false },
    ]);
    // what is taken back later was an ending
    const later = reached('8/8/8/8/3rk3/8/3PK3/3R4 w - - 0 1', 'd1c1', 'd4d2', 'e2e1', 'd2d8');
    expect(later[1]).toEqual({ ply: 2, name: 'KR KR', isPassing: false });
  });

  it('are none with the kings alone', () => {
    expect(reached('8/8/8/8/8/4k3/4p3/4K3 b - - 0 1', 'e3f4', 'e1e2', 'f4e5')).toEqual([
      { ply: 0, name: 'K KP', isPassing: false },
    ]);
  });

  it('can be told from the other side', () => {
    expect(turnedName('KRP KR')).toBe('KR KRP');
    expect(turnedName(turnedName('KQ K'))).toBe('KQ K');
  });
});
