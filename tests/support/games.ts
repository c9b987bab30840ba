import fc from 'fast-check';
import type { GameRecord, Tag } from '@/core/game/record';
import type { GameKind, Side } from '@/core/game/ruleset';
import type { Annotations, Mark } from '@/core/game/tree';
import { CAUSES, ROOT, TreeBuilder } from '@/core/game/tree';
import { readGames } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { rulesetOf } from '@/core/rulesets';
import { HANDICAPS } from '@/core/shogi/handicaps';

/** Which parts of a game a format is asked to hold. */
export interface Features {
  variations: boolean;
  before: boolean;
  symbols: boolean;
  marks: boolean;
  clock: boolean;
  /** Steps of the time spent, in milliseconds; null: none. */
  spent: number | null;
  evaluation: boolean;
  lesson: boolean;
  extras: (() => fc.Arbitrary<string>) | null;
  /** Line breaks in comments. */
  breaks: boolean;
}

/** All that steps know of, in a game of any format. */
export const EVERYTHING: Features = {
  variations: true,
  before: false,
  symbols: true,
  marks: true,
  clock: true,
  spent: 1000,
  evaluation: false,
  lesson: true,
  extras: null,
  breaks: false,
};

const WORDS = [
  'the',
  'Knight',
  'e4!',
  '指し手',
  '"quoted"',
  'a\\b',
  '(not a variation)',
  '; not a comment',
  '$5',
  '1-0',
  '<b>bold</b>',
  'Ünïcödé',
  '%',
];

const words = (breaks: boolean): fc.Arbitrary<string> =>
  fc
    .array(
      fc.tuple(fc.constantFrom(...WORDS), fc.constantFrom(' ', ' ', ' ', breaks ? '\n' : ' ')),
      {
        minLength: 1,
        maxLength: 30,
      },
    )
    .map((parts) =>
      parts
        .map(([word, gap]) => word + gap)
        .join('')
        .trim(),
    );

const score = fc.oneof(
  fc.integer({ min: -3000, max: 3000 }).map((cp) => ({ kind: 'cp' as const, cp })),
  fc
    .tuple(fc.integer({ min: 1, max: 40 }), fc.constantFrom(0 as const, 1 as const))
    .map(([plies, winner]) => ({ kind: 'mate' as const, plies, winner })),
);

function annotations(kind: GameKind, features: Features): fc.Arbitrary<Annotations> {
  const squares = kind === 'chess' ? 64 : 81;
  const square = fc.integer({ min: 0, max: squares - 1 });
  const mark: fc.Arbitrary<Mark> = fc
    .record({
      colour: fc.constantFrom('green' as const, 'red' as const, 'yellow' as const, 'blue' as const),
      square,
      to: fc.option(square, { nil: undefined }),
    })
    .map(({ to, ...rest }) => (to === undefined ? rest : { ...rest, to }));
  const sorted = (marks: Mark[]): Mark[] => [
    ...marks.filter(({ to }) => to === undefined),
    ...marks.filter(({ to }) => to !== undefined),
  ];
  const rarely = <T>(wanted: boolean, value: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
    wanted ? fc.option(value, { nil: undefined, freq: 2 }) : fc.constant(undefined);
  return fc
    .record({
      comment: rarely(true, words(features.breaks)),
      symbols: rarely(
        features.symbols,
        fc.uniqueArray(fc.integer({ min: 1, max: 255 }), { minLength: 1, maxLength: 3 }),
      ),
      marks: rarely(features.marks, fc.array(mark, { minLength: 1, maxLength: 4 }).map(sorted)),
      clock: rarely(
        features.clock,
        fc.integer({ min: 0, max: 90_000 }).map((tenths) => tenths * 100),
      ),
      spent: rarely(
        features.spent !== null,
        fc.integer({ min: 0, max: 7000 }).map((steps) => steps * (features.spent ?? 1)),
      ),
      evaluation: rarely(
        features.evaluation,
        fc
          .tuple(score, fc.option(fc.integer({ min: 1, max: 60 }), { nil: undefined }))
          .map(([value, depth]) => ({
            score: value,
            ...(depth === undefined ? {} : { depth }),
          })),
      ),
      lesson: rarely(features.lesson, words(false)),
      cause: rarely(features.lesson, fc.constantFrom(...CAUSES)),
      extras: rarely(
        features.extras !== null,
        fc.array((features.extras ?? (() => fc.constant('')))(), { minLength: 1, maxLength: 2 }),
      ),
    })
    .map((fields) =>
      Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)),
    );
}

const tagValue = fc.constantFrom(
  'Ana "the rook" Petru',
  'back\\slash',
  '棋士 太郎',
  '<script>alert(1)</script>',
  'plain',
);

const results = fc.constantFrom('1-0' as const, '0-1' as const, '1/2-1/2' as const, '*' as const);

/** Games of random legal moves with everything that `features` allows written on them. */
export function gameOf(
  kind: GameKind,
  features: Features,
  tagNames: readonly string[],
): fc.Arbitrary<GameRecord> {
  const starts = kind === 'chess' ? CHESS_STARTS : HANDICAPS.map(({ start }) => start);
  const choice = fc.record({
    parent: fc.nat(),
    move: fc.nat(),
    branch: fc.nat({ max: 9 }),
    notes: annotations(kind, features),
    before: features.before ? fc.option(words(false), { nil: undefined }) : fc.constant(undefined),
  });
  return fc
    .record({
      start: fc.constantFrom(...starts),
      root: annotations(kind, { ...features, symbols: false, clock: false, spent: null }),
      choices: fc.array(choice, { maxLength: 40 }),
      tags: fc.array(tagValue, { minLength: tagNames.length, maxLength: tagNames.length }),
      result: results,
    })
    .map(({ start, root, choices, tags, result }) => {
      const tree = growTree(kind, start, root, choices, features.variations);
      const record: GameRecord = {
        tree,
        tags: tagNames.map((name, index): Tag => ({ name, value: tags[index]! })),
        result,
        end: null,
      };
      return record;
    });
}

const CHESS_STARTS = [
  'rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1',
  'r3k2r/Pppp1ppp/1b3nbN/nP6/BBP1P3/q4N2/Pp1P2PP/R2Q1RK1 w kq - 0 1',
  '8/2p5/3p4/KP5r/1R3p1k/8/4P1P1/8 b - - 12 40',
];

/** A mate by the side to move takes an odd number of plies, by the other an even one. */
function withPossibleMate(notes: Annotations, toMove: Side): Annotations {
  const { evaluation } = notes;
  if (evaluation?.score.kind !== 'mate') return notes;
  const { plies, winner } = evaluation.score;
  const odd = winner === toMove ? 1 : 0;
  const fitting = plies % 2 === odd ? plies : plies + 1;
  return {
    ...notes,
    evaluation: { ...evaluation, score: { kind: 'mate', plies: fitting, winner } },
  };
}

function growTree(
  kind: GameKind,
  start: string,
  root: Annotations,
  choices: readonly {
    parent: number;
    move: number;
    branch: number;
    notes: Annotations;
    before: string | undefined;
  }[],
  variations: boolean,
) {
  const ruleset = rulesetOf(kind);
  const tree = new TreeBuilder(kind, ruleset.write(ruleset.start(start)));
  Object.assign(tree.node(ROOT), withPossibleMate(root, ruleset.side(ruleset.start(start))));
  const positions = [ruleset.start(start)];
  let last = ROOT;
  for (const { parent, move, branch, notes, before } of choices) {
    const from = variations && branch === 0 ? parent % positions.length : last;
    const position = positions[from]!;
    const taken = tree.node(from).children.map((id) => tree.node(id).move);
    const free = ruleset.moves(position).filter((candidate) => !taken.includes(candidate));
    if (free.length === 0) continue;
    const chosen = free[move % free.length]!;
    last = tree.add(from, chosen);
    positions.push(ruleset.play(position, chosen));
    Object.assign(tree.node(last), withPossibleMate(notes, ruleset.side(positions.at(-1)!)));
    if (before !== undefined && taken.length > 0) tree.node(last).before = before;
  }
  return tree.build();
}

/** The first game of a PGN text. */
export const recordFrom = (text: string): GameRecord =>
  [...readGames(text, 'pgn')].find(isRead)!.record;
