import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { PassThrough } from 'node:stream';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { codesAlong, randomGame, randomPosition } from '../../tests/support/random-positions';
import { readPerft, readVectors } from '../../tests/support/vectors';
import { dropOf, fromOf, type Move, NULL_MOVE, promotionOf, toOf } from '@/core/game/move';
import { GAME_KINDS, type GameKind, type Position } from '@/core/game/ruleset';
import type { Score } from '@/core/game/score';
import { chanceOf } from '@/core/review/chance';
import { rulesetOf } from '@/core/rulesets';
import type { Answer, Question } from '@/core/ask/question';
import { randomSource } from './draw';
import { loadSearch, startEngine } from './hosts/node';
import type { SearchHost, SearchModule } from './search-module';
import { evaluate, mainQuestion, MOST_NODES_FOR_DEPTH, PRICING_SHARE } from '@/core/ask/evaluate';
import { talk } from './stdio';

const FILES = { modules: resolve('dist/engine'), thread: resolve('dist/engine-thread.mjs') };
const HOST: SearchHost = { shouldStop: () => false, now: () => performance.now() };

const EVALUATIONS = ['network', 'terms'] as const;
type Evaluation = (typeof EVALUATIONS)[number];
/** Either game with either evaluation. */
const SEARCHES = GAME_KINDS.flatMap((kind) => EVALUATIONS.map((by) => ({ kind, by })));

const loaded = { network: {}, terms: {} } as Record<Evaluation, Record<GameKind, SearchModule>>;
const loadedChecked = structuredClone(loaded);
const modules = loaded.network;
const checked = loadedChecked.network;
beforeAll(async () => {
  for (const { kind, by } of SEARCHES) {
    loaded[by][kind] = await loadSearch(FILES, kind, { table: 4 });
    loadedChecked[by][kind] = await loadSearch(FILES, kind, { checked: true, table: 1 });
    if (by === 'network') continue;
    loaded[by][kind].setNetwork(null);
    loadedChecked[by][kind].setNetwork(null);
  }
});

const requestFor = (kind: GameKind, position: string, change: Partial<Question> = {}): Question => {
  const ruleset = rulesetOf(kind);
  return {
    kind,
    root: ruleset.searchRoot(ruleset.start(position), []),
    budget: { depth: 6 },
    lines: 1,
    fresh: true,
    ...change,
  };
};

describe('the rules of the search', () => {
  it.each(readPerft())(
    'count as published: $game $position depth $depth',
    ({ game, position, depth, count }) => {
      expect(modules[game].perft(position, depth)).toBe(count);
    },
  );
  it.each(readPerft().filter(({ count }) => count < 60_000))(
    'count as published in the checked build: $game $position depth $depth',
    ({ game, position, depth, count }) => {
      expect(checked[game].perft(position, depth)).toBe(count);
    },
  );
  it.each(GAME_KINDS)('agree with the rules core on random positions: %s', (kind) => {
    const ruleset = rulesetOf(kind);
    fc.assert(
      fc.property(randomPosition(kind), (text) => {
        const position = ruleset.start(text);
        let count = 0;
        for (const move of ruleset.moves(position))
          count += ruleset.moves(ruleset.play(position, move)).length;
        expect(modules[kind].perft(text, 2)).toBe(count);
      }),
      { numRuns: 120 },
    );
  });
});

describe('the moves that a search offers', () => {
  const offered = (kind: GameKind, sfen: string, change: Partial<Question> = {}): string[] =>
    modules[kind]
      .search(requestFor(kind, sfen, { budget: { depth: 1 }, lines: 500, ...change }), HOST)
      .lines.map(({ moves }) => moves[0]!)
      .sort();
  const chosen = (kind: GameKind, text: string): string[] => {
    const ruleset = rulesetOf(kind);
    return ruleset.choices(ruleset.start(text)).map(ruleset.code).sort();
  };

  it.each(GAME_KINDS)('are those that the rules core says one chooses from: %s', (kind) => {
    fc.assert(
      fc.property(randomPosition(kind), (text) => {
        expect(offered(kind, text)).toEqual(chosen(kind, text));
      }),
      { numRuns: 150 },
    );
  });

  it.each(readVectors<{ sfen: string; kind: string }>('shogi_special.jsonl').slice(0, 40))(
    'likewise in $kind',
    ({ sfen }) => {
      expect(offered('shogi', sfen)).toEqual(chosen('shogi', sfen));
    },
  );

  it('a mate by promotion is an only move, and declining it is no other', () => {
    const rook = '4k4/7r1/9/7R1/9/9/9/9/4K4 b - 1';
    const found = modules.shogi.search(requestFor('shogi', rook, { lines: 3 }), HOST);
    expect(found.lines.map(({ moves }) => moves[0])).not.toContain('2d2b');
    expect(found.lines[0]!.moves[0]).toBe('2d2b+');
    expect(found.lines.filter(({ score }) => score.kind === 'mate')).toHaveLength(1);
  });

  it('one that is asked for is searched, whatever it is', () => {
    const rook = '4k4/7r1/9/7R1/9/9/9/9/4K4 b - 1';
    expect(offered('shogi', rook, { only: ['2d2b'] })).toEqual(['2d2b']);
  });
});

describe('the price of a move', () => {
  /** A position in which nothing can be left out: the move played loses by force, and its depth was never reached. */
  const root = {
    position: 'ln4+N2/3s5/1p1pkp2+R/p1pgp1p1p/9/PPP1P1PPP/2SPL4/G1SKG4/7g1 w BS2LPrb2np 98',
    moveCount: 0,
    repeated: [],
  };
  const settings = { nodes: 50_000, lines: 3 };
  const price = () =>
    evaluate(
      async (question) => modules.shogi.search(question, HOST),
      'shogi',
      { root, played: '5c4b' },
      settings,
    );

  it('never takes more than its share, and is the same each time', async () => {
    const { main, priced } = await price();
    expect(priced!.lines[0]!.moves[0]).toBe('5c4b');
    expect(priced!.nodes).toBeLessThanOrEqual(PRICING_SHARE * main.nodes + 2048);
    const again = await price();
    expect(again.priced!.nodes).toBe(priced!.nodes);
    expect(again.priced!.lines).toEqual(priced!.lines);
  });

  it('has a bound also where a depth is asked for', () => {
    expect(mainQuestion('shogi', root, { depth: 16, lines: 3 })).toMatchObject({
      budget: { depth: 16, nodes: MOST_NODES_FOR_DEPTH },
      lines: 3,
      fresh: true,
    });
    expect(mainQuestion('shogi', root, settings).budget).toEqual({ nodes: 50_000 });
    const { nodes } = modules.shogi.search(
      { kind: 'shogi', root, budget: { depth: 60, nodes: 30_000 }, lines: 3, fresh: true },
      HOST,
    );
    expect(nodes).toBeLessThanOrEqual(30_000 + 2048);
  });

  it('is settled by a mate', () => {
    const endless = modules.shogi.search(
      { kind: 'shogi', root, budget: { mate: true }, lines: 1, only: ['5c4b'], fresh: true },
      HOST,
    );
    expect(endless.lines[0]!.score.kind).toBe('mate');
    expect(endless.depth).toBeLessThan(10);
  });
});

describe('quiet checks', () => {
  /** The letters of those that are looked for (no pawns of chess), and of those whose promotion is no quiet move. */
  const LETTERS = { chess: ['NBRQ', ''], shogi: ['PLNSBRG+', 'PBR'] } as const;

  it.each(GAME_KINDS)('are found, and nothing else: %s', (kind) => {
    const ruleset = rulesetOf(kind);
    const { setup } = ruleset;
    const [sought, promoting] = LETTERS[kind];
    const promotes = (position: Position, move: Move): boolean =>
      ruleset
        .moves(position)
        .some(
          (other) =>
            fromOf(other) === fromOf(move) &&
            toOf(other) === toOf(move) &&
            promotionOf(other) !== 0,
        );
    /** Whether the other king would be in check if the piece had only left. */
    const uncovers = (position: Position, from: number): boolean =>
      ruleset.inCheck(ruleset.play(setup.put(position, from, 0), NULL_MOVE));
    const isSought = (position: Position, move: Move): boolean => {
      if (setup.pieceAt(position, toOf(move)) !== 0) return false;
      if (dropOf(move)) return true;
      const letter = setup.letter(setup.pieceAt(position, fromOf(move))).toUpperCase();
      if (!sought.includes(letter[0]!)) return false;
      return (
        !(promoting.includes(letter) && promotes(position, move)) &&
        !uncovers(position, fromOf(move))
      );
    };
    /** Whether a check comes from beside the king or from a knight's leap away. */
    const isNear = (position: Position, move: Move): boolean => {
      const king = ruleset.squareNames.findIndex((_, square) => {
        const piece = setup.pieceAt(position, square);
        const owner = setup.letter(piece) === 'K' ? 0 : setup.letter(piece) === 'k' ? 1 : null;
        return piece !== 0 && owner === 1 - ruleset.side(position);
      });
      const [a, b] = [ruleset.squareNames[king]!, ruleset.squareNames[toOf(move)]!];
      const [across, along] = [0, 1].map((at) => Math.abs(a.charCodeAt(at) - b.charCodeAt(at)));
      return Math.max(across!, along!) === 1 || across! * along! === 2;
    };
    let found = 0;
    fc.assert(
      fc.property(randomPosition(kind, 160), (text) => {
        const position = ruleset.start(text);
        fc.pre(!ruleset.inCheck(position));
        const listed = modules[kind].quietChecks(text, false);
        expect(new Set(listed).size).toBe(listed.length);
        const legal = ruleset.moves(position);
        const isCheck = (move: Move): boolean => ruleset.inCheck(ruleset.play(position, move));
        for (const code of listed) {
          const move = ruleset.parseCode(code)!;
          if (ruleset.isLegal(position, move)) expect(isCheck(move), code).toBe(true);
        }
        const wanted = legal
          .filter((move) => isSought(position, move) && isCheck(move))
          .map(ruleset.code);
        expect(listed).toEqual(expect.arrayContaining(wanted));
        expect(modules[kind].quietChecks(text, true).sort()).toEqual(
          listed.filter((code) => isNear(position, ruleset.parseCode(code)!)).sort(),
        );
        found += wanted.length;
      }),
      { numRuns: 400 },
    );
    expect(found).toBeGreaterThan(50);
  });
});

describe('a position is known again', () => {
  it.each(GAME_KINDS)('however it came up, set up or played: %s', (kind) => {
    const ruleset = rulesetOf(kind);
    const { setup } = ruleset;
    fc.assert(
      fc.property(randomGame(kind, 160), fc.nat(30), (positions, back) => {
        const last = positions.slice(-1 - back);
        const [from, to] = [last[0]!, last.at(-1)!].map(
          (position) => ruleset.searchRoot(position, []).position,
        );
        // a pawn that was passed counts for the search where one stands beside it, pinned or not
        fc.pre(setup.passed(ruleset.start(from)) === setup.passed(last[0]!));
        fc.pre(setup.passed(ruleset.start(to)) === setup.passed(last.at(-1)!));
        const known = modules[kind].keyAfter(to!, []);
        expect(modules[kind].keyAfter(from!, codesAlong(kind, last))).toBe(known);
      }),
      { numRuns: 80 },
    );
  });
});

interface Mate {
  game: GameKind;
  fen?: string;
  sfen?: string;
  n: number;
  solutions: string[];
}

describe('the search', () => {
  it.each(readVectors<Mate>('mates.jsonl').map((mate) => ({ ...mate, of: mate.fen ?? mate.sfen })))(
    'finds the mate in $n of $of',
    (mate) => {
      const plies = mate.game === 'chess' ? 2 * mate.n - 1 : mate.n;
      const request = requestFor(mate.game, (mate.fen ?? mate.sfen)!, { budget: { depth: 14 } });
      const [line] = modules[mate.game].search(request, HOST).lines;
      const winner = rulesetOf(mate.game).side(
        rulesetOf(mate.game).start((mate.fen ?? mate.sfen)!),
      );
      expect(line!.score).toEqual({ kind: 'mate', plies, winner });
      expect(mate.solutions).toContain(line!.moves[0]);
      expect(line!.moves).toHaveLength(plies);
    },
  );

  it.each(SEARCHES)(
    'reports only legal lines, best first, whose mates are mates: $kind, $by',
    ({ kind, by }) => {
      const ruleset = rulesetOf(kind);
      const worth = (score: Score, side: number): number => {
        const first =
          score.kind === 'cp' ? score.cp : (100_000 - score.plies) * (score.winner === 0 ? 1 : -1);
        return side === 0 ? first : -first;
      };
      fc.assert(
        fc.property(randomPosition(kind), fc.integer({ min: 1, max: 5 }), (text, wanted) => {
          const position = ruleset.start(text);
          const { lines } = loaded[by][kind].search(
            requestFor(kind, text, { lines: wanted, budget: { depth: 4, nodes: 20_000 } }),
            HOST,
          );
          const legal = ruleset.moves(position);
          expect(lines).toHaveLength(Math.min(wanted, legal.length));
          expect(new Set(lines.map(({ moves }) => moves[0])).size).toBe(lines.length);
          const scores = lines.map(({ score }) => worth(score, ruleset.side(position)));
          expect(scores).toEqual([...scores].sort((a, b) => b - a));
          for (const { moves, score } of lines) {
            let at = position;
            for (const code of moves) {
              const move = ruleset.parseCode(code)!;
              expect(ruleset.isLegal(at, move)).toBe(true);
              at = ruleset.play(at, move);
            }
            if (score.kind === 'mate' && moves.length === score.plies)
              expect(ruleset.moves(at)).toHaveLength(0);
          }
        }),
        { numRuns: 60 },
      );
    },
  );

  it('never withdraws a mate that it has found, nor lengthens it', () => {
    for (const mate of readVectors<Mate>('mates.jsonl')) {
      const winner = rulesetOf(mate.game).side(
        rulesetOf(mate.game).start((mate.fen ?? mate.sfen)!),
      );
      let least = Infinity;
      modules[mate.game].search(
        requestFor(mate.game, (mate.fen ?? mate.sfen)!, { budget: { depth: 12 } }),
        HOST,
        ({ lines }) => {
          const { score } = lines[0]!;
          const plies = score.kind === 'mate' && score.winner === winner ? score.plies : Infinity;
          expect(plies).toBeLessThanOrEqual(least);
          least = plies;
        },
      );
      expect(least).toBeLessThan(Infinity);
    }
  });

  it.each(GAME_KINDS)('keeps what it found when one steps into a line: %s', (kind) => {
    const ruleset = rulesetOf(kind);
    const searched = (position: string, nodes: number, fresh: boolean): Answer =>
      modules[kind].search(requestFor(kind, position, { budget: { nodes }, fresh }), HOST);
    let position = ruleset.startText;
    let [known, anew] = [0, 0];
    for (let step = 0; step < 5; step++) {
      const [line] = searched(position, 100_000, true).lines;
      const move = ruleset.parseCode(line!.moves[0]!)!;
      position = ruleset.write(ruleset.play(ruleset.start(position), move));
      known += searched(position, 5000, false).depth;
      anew += searched(position, 5000, true).depth;
    }
    expect(known).toBeGreaterThan(anew);
  });

  it.each(SEARCHES)(
    'comes to the same to the last digit, whatever it did before: $kind, $by',
    ({ kind, by }) => {
      const busy = loaded[by][kind];
      const slow = loadedChecked[by][kind];
      const strip = ({ milliseconds: _, ...rest }: Answer) => rest;
      fc.assert(
        fc.property(randomPosition(kind), randomPosition(kind), (text, other) => {
          const request = requestFor(kind, text, { lines: 2, budget: { nodes: 6000 } });
          const first = strip(busy.search(request, HOST));
          busy.search(requestFor(kind, other, { budget: { nodes: 3000 }, fresh: false }), HOST);
          expect(strip(busy.search(request, HOST))).toEqual(first);
          expect(strip(slow.search({ ...request, budget: { depth: 2 } }, HOST))).toEqual(
            strip(busy.search({ ...request, budget: { depth: 2 } }, HOST)),
          );
        }),
        { numRuns: 15 },
      );
    },
  );

  it.each(GAME_KINDS)(
    'keeps a single line that a depth has found before it was broken off: %s',
    (kind) => {
      const ruleset = rulesetOf(kind);
      const depth = 9;
      let [kept, single] = [0, 0];
      for (const text of fc.sample(randomPosition(kind), { numRuns: 25, seed: 4 })) {
        const request = requestFor(kind, text, { budget: { depth } });
        const reports: Answer[] = [];
        const whole = modules[kind].search(request, HOST, (report) => reports.push(report));
        const [before] = reports.slice(-2);
        // the host is asked every few thousand nodes
        if (whole.depth < depth || whole.nodes - before!.nodes < 20_000) continue;
        const side = ruleset.side(ruleset.start(text));
        const worth = ({ lines }: Answer): number => chanceOf(kind, lines[0]!.score, side);
        const stopAt = before!.nodes + 0.8 * (whole.nodes - before!.nodes);
        const host: SearchHost = { shouldStop: (nodes) => nodes >= stopAt, now: () => 0 };
        const cut = modules[kind].search(request, host);
        single++;
        expect(cut.depth).toBe(depth - 1);
        // what a depth has found so far is exceeded or stands at its end
        if (worth(cut) !== worth(before!)) {
          kept++;
          expect(worth(cut)).toBeLessThanOrEqual(worth(whole));
        }
        // of several lines all are of one depth
        const two = modules[kind].search({ ...request, lines: 2 }, HOST, (report) =>
          reports.push(report),
        );
        const last = reports.at(-2)!;
        const between = last.nodes + 0.8 * (two.nodes - last.nodes);
        const stopped = modules[kind].search(
          { ...request, lines: 2 },
          { ...host, shouldStop: (nodes) => nodes >= between },
        );
        expect(stopped.lines).toEqual(last.lines);
      }
      expect(kept).toBeGreaterThan(single / 3);
    },
  );

  // what the search of this version finds, written down: another machine must find the same to the last digit
  it.each([
    ['chess', 'network', 20_000, 9, -8, 'd7d5 e4d5 f6d5 d2d3 h7h6 g5e4 d5b6 c4b3 f8e7 e1g1'],
    ['chess', 'terms', 20_001, 8, -27, 'd7d5 e4d5 f6d5 d1f3 d8g5 c4d5 g5f6 f3h5'],
    ['shogi', 'network', 20_002, 10, 31, '8h2b+ 3a2b B*4e B*5d 4e5d 5c5d B*4e B*6e 4e3d 8b4b'],
    ['shogi', 'terms', 20_000, 8, 30, '8h2b+ 3a2b B*4e B*5d 4e5d 5c5d 2g2f 8c8d'],
  ] as const)(
    'finds on any machine what is written down: %s, %s',
    (kind, by, nodes, depth, cp, moves) => {
      const position = {
        chess: 'r1bqkb1r/pppp1ppp/2n2n2/4p1N1/2B1P3/8/PPPP1PPP/RNBQK2R b KQkq - 5 4',
        shogi: 'lnsgkgsnl/1r5b1/pppppp1pp/6p2/9/2P6/PP1PPPPPP/1B5R1/LNSGKGSNL b - 3',
      }[kind];
      const found = loaded[by][kind].search(
        requestFor(kind, position, { budget: { nodes: 20_000 } }),
        HOST,
      );
      expect(found).toMatchObject({
        nodes,
        depth,
        lines: [{ score: { kind: 'cp', cp }, moves: moves.split(' ') }],
      });
    },
  );

  it.each(SEARCHES)('has a legal best move wherever it is stopped: $kind, $by', ({ kind, by }) => {
    const ruleset = rulesetOf(kind);
    fc.assert(
      fc.property(randomPosition(kind), fc.integer({ min: 1, max: 4000 }), (text, nodes) => {
        const position = ruleset.start(text);
        const { lines } = loaded[by][kind].search(
          requestFor(kind, text, { budget: { nodes } }),
          HOST,
        );
        if (ruleset.moves(position).length === 0) expect(lines).toHaveLength(0);
        else expect(ruleset.isLegal(position, ruleset.parseCode(lines[0]!.moves[0]!)!)).toBe(true);
      }),
      { numRuns: 80 },
    );
  });

  it.each(GAME_KINDS)('plays legally though its table is full of rubbish: %s', (kind) => {
    const ruleset = rulesetOf(kind);
    const search = checked[kind];
    fc.assert(
      fc.property(randomPosition(kind), fc.integer(), (text, seed) => {
        const random = randomSource(seed >>> 0);
        search.search(requestFor(kind, text, { budget: { nodes: 500 } }), HOST);
        // entries that are whole but belong elsewhere, and entries torn in the middle
        for (const { buffer, byteOffset, length } of search.tables) {
          const words = new BigUint64Array(buffer, byteOffset, length / 8);
          for (let i = 0; i < words.length; i += 2) {
            const data =
              BigInt(Math.floor(random() * 2 ** 32)) * 2n ** 32n +
              BigInt(Math.floor(random() * 2 ** 32));
            if (random() < 0.5) words[i + 1] = data;
            else [words[i], words[i + 1]] = [words[i]! ^ words[i + 1]! ^ data, data];
          }
        }
        const { lines } = search.search(
          requestFor(kind, text, { budget: { nodes: 1500 }, fresh: false, lines: 2 }),
          HOST,
        );
        for (const { moves } of lines) {
          let at = ruleset.start(text);
          for (const code of moves) {
            expect(ruleset.isLegal(at, ruleset.parseCode(code)!)).toBe(true);
            at = ruleset.play(at, ruleset.parseCode(code)!);
          }
        }
      }),
      { numRuns: 25 },
    );
  });

  it.each(SEARCHES)('keeps to the memory that it was given: $kind, $by', ({ kind, by }) => {
    const search = loaded[by][kind];
    const bytes = (): number => search.tables[0]!.buffer.byteLength;
    search.resizeTable(4);
    const before = bytes();
    for (const lines of [1, 5, 40])
      search.search(
        requestFor(kind, rulesetOf(kind).startText, { lines, budget: { nodes: 30_000 } }),
        HOST,
      );
    search.resizeTable(1);
    search.resizeTable(4);
    expect(bytes()).toBe(before);
  });

  it('prices a given move at a given depth', () => {
    const start = rulesetOf('chess').startText;
    const priced = modules.chess.search(requestFor('chess', start, { only: ['h2h4'] }), HOST);
    expect(priced.lines[0]!.moves[0]).toBe('h2h4');
    expect(priced.depth).toBe(6);
  });

  it('knows positions that would end the game if they came again', () => {
    const ruleset = rulesetOf('chess');
    // Black is a queen down; the knight has gone back and forth, so that once more is a draw
    let position = ruleset.start('6k1/5ppp/8/8/8/2n5/5PPP/1Q4K1 b - - 0 1');
    const history: Position[] = [];
    for (const code of ['c3d5', 'b1c1', 'd5c3', 'c1b1', 'c3d5', 'b1c1', 'd5c3']) {
      history.push(position);
      position = ruleset.play(position, ruleset.parseCode(code)!);
    }
    const root = ruleset.searchRoot(position, history);
    expect(root.repeated).not.toHaveLength(0);
    const fresh = { kind: 'chess' as const, budget: { depth: 1 }, lines: 30, fresh: true };
    const withPast = modules.chess.search({ ...fresh, root }, HOST);
    const without = modules.chess.search({ ...fresh, root: { ...root, repeated: [] } }, HOST);
    const scoreOf = (info: Answer, code: string) =>
      info.lines.find(({ moves }) => moves[0] === code)!.score;
    expect(scoreOf(withPast, 'c1b1')).toEqual({ kind: 'cp', cp: 0 });
    expect(scoreOf(without, 'c1b1')).not.toEqual({ kind: 'cp', cp: 0 });
  });

  it.each([
    ['chess', '7k/5Q2/6K1/8/8/8/8/8 b - - 0 1'],
    ['chess', 'R6k/6pp/8/8/8/8/8/K7 b - - 0 1'],
    ['shogi', '4k4/4G4/4P4/9/9/9/9/9/4K4 w - 1'],
  ] as const)('has no line where there is no move: %s %s', (kind, position) => {
    expect(modules[kind].search(requestFor(kind, position), HOST).lines).toHaveLength(0);
  });

  it.each([
    ['chess', '6rk/6pp/8/8/8/QQQ5/QQQ5/QQQ4K w - - 0 1'],
    ['shogi', 'R8/2K1S1SSk/4B4/9/9/9/9/9/1L1L1L3 b RBGSNLP3g3n17p 1'],
    ['shogi', '4k4/9/9/9/9/9/9/9/4K4 b 2R2B4G4S4N4L18P 1'],
    ['shogi', '4k4/9/4P4/9/9/9/9/9/9 b G2r2b3g4s4n4l17p 1'],
  ] as const)('takes legal but strange positions: %s %s', (kind, position) => {
    const info = modules[kind].search(
      requestFor(kind, position, { budget: { nodes: 5000 } }),
      HOST,
    );
    expect(info.lines.length).toBeGreaterThan(0);
  });
});

describe('the host contract in a node thread', () => {
  it('reports growing depths, stops when told, and serves the next search', async () => {
    const engine = await startEngine(FILES, { tableMegabytes: 4 });
    try {
      const depths: number[] = [];
      const stop = new AbortController();
      const request = requestFor('chess', rulesetOf('chess').startText, { budget: {} });
      const info = await engine.search(request, {
        signal: stop.signal,
        onInfo: ({ depth }) => {
          depths.push(depth);
          if (depth === 5) stop.abort();
        },
      });
      expect(depths.slice(0, 5)).toEqual([1, 2, 3, 4, 5]);
      expect(info.lines[0]!.moves.length).toBeGreaterThan(0);
      const next = await engine.search(
        requestFor('shogi', rulesetOf('shogi').startText, { budget: { depth: 3 } }),
      );
      expect(next.depth).toBe(3);
    } finally {
      engine.close();
    }
  });

  it('does not start with a module that is no search, nor answer for a game it was not started for', async () => {
    const empty = join(await mkdtemp(join(tmpdir(), 'bektra-engine-')), 'chess.wasm');
    await writeFile(empty, Uint8Array.of(0, 0x61, 0x73, 0x6d, 1, 0, 0, 0));
    await expect(
      startEngine(FILES, { kinds: ['chess'], other: { chess: empty } }),
    ).rejects.toThrow();
    const engine = await startEngine(FILES, { kinds: ['chess'], tableMegabytes: 1 });
    try {
      const start = rulesetOf('shogi').startText;
      await expect(
        engine.search(requestFor('shogi', start, { budget: { depth: 1 } })),
      ).rejects.toThrow('no search for shogi');
    } finally {
      engine.close();
    }
  });
});

describe('several threads', () => {
  it.each(GAME_KINDS)('search one tree together and end together: %s', async (kind) => {
    const engine = await startEngine(FILES, { tableMegabytes: 4, threads: 2 });
    try {
      const ruleset = rulesetOf(kind);
      const start = ruleset.startText;
      for (let round = 0; round < 3; round++) {
        const request = requestFor(kind, start, { budget: { milliseconds: 150 }, lines: 2 });
        const info = await engine.search(request);
        expect(info.depth).toBeGreaterThan(4);
        for (const { moves } of info.lines) {
          let at = ruleset.start();
          for (const code of moves) {
            expect(ruleset.isLegal(at, ruleset.parseCode(code)!)).toBe(true);
            at = ruleset.play(at, ruleset.parseCode(code)!);
          }
        }
      }
      const mates = readVectors<Mate>('mates.jsonl').filter(
        ({ game, n }) => game === kind && n <= 3,
      );
      for (const mate of mates.slice(0, 6)) {
        const request = requestFor(kind, (mate.fen ?? mate.sfen)!, { budget: { depth: 12 } });
        const [line] = (await engine.search(request)).lines;
        expect(mate.solutions).toContain(line!.moves[0]);
      }
    } finally {
      engine.close();
    }
  });
});

async function converse(
  kind: GameKind,
  lines: string[],
  open: Parameters<typeof talk>[1] = (options) => startEngine(FILES, options),
): Promise<string[]> {
  const input = new PassThrough();
  const output = new PassThrough();
  let text = '';
  output.on('data', (piece: Buffer) => (text += piece.toString()));
  const over = talk(kind, open, input, output, 'test');
  input.end(`${lines.join('\n')}\n`);
  await over;
  return text.trim().split('\n');
}

describe('UCI and USI', () => {
  it('answer, search and end', async () => {
    const uci = await converse('chess', [
      'uci',
      'isready',
      'nonsense',
      'position startpos moves e2e4',
      'go depth 4',
    ]);
    expect(uci).toContain('uciok');
    expect(uci).toContain('readyok');
    expect(uci.at(-1)).toMatch(/^bestmove [a-h][1-8][a-h][1-8]$/);
    expect(uci.some((line) => /^info depth 4 .*score cp -?\d+ .* pv /.test(line))).toBe(true);
    const usi = await converse('shogi', ['usi', 'position startpos moves 7g7f', 'go byoyomi 100']);
    expect(usi).toContain('usiok');
    expect(usi.at(-1)).toMatch(/^bestmove \d[a-i]\d[a-i]\+?$/);
  });
  it('tell mates in moves and in plies', async () => {
    const uci = await converse('chess', [
      'position fen 6k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - 0 1',
      'go depth 6',
    ]);
    expect(uci.some((line) => line.includes('score mate 1 '))).toBe(true);
    const usi = await converse('shogi', [
      'position sfen 4k4/9/4P4/9/9/9/9/9/9 b G2r2b3g4s4n4l17p 1',
      'go depth 4',
    ]);
    expect(usi.some((line) => line.includes('score mate 1 '))).toBe(true);
  });
  it('take options for lines, table and threads, also between searches', async () => {
    const uci = await converse('chess', [
      'uci',
      'setoption name Hash value 2',
      'setoption name Threads value 2',
      'setoption name MultiPV value 3',
      'setoption name Nonsense value blue',
      'isready',
      'position startpos moves e2e4',
      'go depth 5',
    ]);
    expect(uci.filter((line) => line.startsWith('option name'))).toHaveLength(3);
    expect(uci.some((line) => /depth 5 .*multipv 3 /.test(line))).toBe(true);
    expect(uci.at(-1)).toMatch(/^bestmove/);
  });
  it('look for a mate when asked to', async () => {
    const usi = await converse('shogi', [
      'position sfen 4k4/9/4P4/9/9/9/9/9/9 b G2r2b3g4s4n4l17p 1',
      'go mate 2000',
    ]);
    expect(usi.at(-1)).toBe('checkmate G*5b');
    const uci = await converse('chess', [
      'position fen 6k1/5ppp/8/8/8/8/5PPP/3R2K1 w - - 0 1',
      'go mate 1',
    ]);
    expect(uci.at(-1)).toBe('bestmove d1d8');
  });
  it('refuse positions that can not be, with the reason', async () => {
    const uci = await converse('chess', ['position fen 8/8/8/8/8/8/8/8 w - - 0 1', 'go depth 1']);
    expect(uci[0]).toMatch(/^info string position refused: position.noKing/);
    expect(uci.at(-1)).toMatch(/^bestmove/);
  });
  it('say why an engine does not start, and end as usual', async () => {
    const refuse = (): Promise<never> => Promise.reject(new Error('no memory left'));
    const uci = await converse('chess', ['isready', 'go depth 1', 'isready', 'quit'], refuse);
    expect(uci.filter((line) => line.includes('no memory left'))).toHaveLength(3);
    expect(uci).not.toContain('readyok');
  });
  it('tell the line that they play, also where a depth that was broken off has found it', async () => {
    const said = await converse('chess', [
      'position fen r2q1rk1/1b2bppp/p1n1pn2/1p6/3P4/P1N2N2/BP2QPPP/R1BR2K1 w - - 0 14',
      'go nodes 12000',
    ]);
    const told = said.flatMap((line) => / pv (\S+)/.exec(line)?.[1] ?? []);
    expect(said.at(-1)).toBe(`bestmove ${told.at(-1)}`);
    // the depth before it was for another move
    expect(told.at(-2)).not.toBe(told.at(-1));
  });
  it('keep to the moves asked for', async () => {
    const uci = await converse('chess', ['position startpos', 'go depth 3 searchmoves a2a3']);
    expect(uci.at(-1)).toBe('bestmove a2a3');
  });
});

it('the null move is told as such', () => {
  expect(rulesetOf('chess').code(NULL_MOVE)).toBe('0000');
  expect(rulesetOf('shogi').code(NULL_MOVE)).toBe('0000');
});
