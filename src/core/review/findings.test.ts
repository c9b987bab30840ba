import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { GameRecord } from '../game/record';
import { cpScore } from '../game/score';
import { mainLine, positionsAlong } from '../game/tree';
import { readGames } from '../notation/formats';
import { isRead } from '../notation/reading';
import { rulesetOf } from '../rulesets';
import { findingsAlong, findingsFrom, mainLineCodes, REVIEW_RULES, sharedMoves } from './findings';
import type { PositionEvaluation } from './evaluation';

const read = (file: string): GameRecord =>
  [
    ...readGames(readFileSync(`demo/games/${file}`, 'utf8'), file.endsWith('pgn') ? 'pgn' : 'kif'),
  ].filter(isRead)[0]!.record;

/** Evaluations that follow from the ply alone: every third move loses something. */
function evaluationsOf(record: GameRecord): PositionEvaluation[] {
  const ruleset = rulesetOf(record.tree.kind);
  const line = mainLine(record.tree);
  return positionsAlong(ruleset, record.tree.start, line).map((position, ply) => {
    const [first, second] = ruleset.moves(position).map((move) => ruleset.code(move));
    const played = line[ply] ? ruleset.code(line[ply].move) : null;
    const score = (worse: number) => cpScore((ruleset.side(position) === 0 ? -1 : 1) * worse);
    const best = ply % 3 === 0 ? first! : (played ?? first!);
    return {
      depth: 10,
      answers: 2,
      ...(ply % 7 === 0 ? { isUnsettled: true } : {}),
      ...(ply % 5 === 0 ? { seen: { plies: (ply % 6) + 1, deepest: 6 } } : {}),
      lines: [
        { score: score(0), moves: [best] },
        { score: score(90), moves: [second!] },
      ],
      ...(played !== null && played !== best && played !== second
        ? { played: { score: score(40 * (ply % 11)), moves: [played] } }
        : {}),
    };
  });
}

describe.each(['harbour-league-2025.pgn', 'lantern-circle-ladder.kifu'])(
  'findings of a game of %s',
  (file) => {
    const record = read(file);
    const evaluations = evaluationsOf(record);
    const whole = findingsFrom(record, evaluations);

    it('say of each move its phase, the time spent and whether there was a choice', () => {
      const found = whole.findings.moves.filter((move) => move !== null);
      expect(found.length).toBe(whole.line.length);
      expect(found[0]!.phase).toBe('opening');
      expect(found.some(({ spent }) => spent !== null)).toBe(true);
      const { accuracy } = whole.findings;
      expect(accuracy[0].moves + accuracy[1].moves).toBe(
        found.filter(({ isChoice }) => isChoice).length,
      );
    });

    it('come out the same when they are reckoned bit by bit', () => {
      let known = evaluations.map((): PositionEvaluation | null => null);
      let before = findingsFrom(record, known);
      for (const ply of [4, 0, 1, 2, 3, ...evaluations.keys()]) {
        const next = known.with(ply, evaluations[ply]!);
        before = findingsFrom(record, next, { evaluations: known, ...before });
        known = next;
        if (ply < 8) expect(before).toEqual(findingsFrom(record, known));
      }
      expect(before).toEqual(whole);
    });

    it('stay true of the moves that a changed game has in common', () => {
      const codes = mainLineCodes(record);
      expect(findingsAlong(whole, codes)).toBe(whole.findings);
      const changed = [...codes.slice(0, 6), 'other', ...codes.slice(7)];
      const { moves, course, accuracy } = findingsAlong(whole, changed);
      expect(moves).toHaveLength(codes.length);
      expect(course).toHaveLength(codes.length + 1);
      expect(moves.slice(0, 6)).toEqual(whole.findings.moves.slice(0, 6));
      expect(moves.slice(6).every((move) => move === null)).toBe(true);
      // the position before the other move is still the same
      expect(course[6]).toBe(whole.findings.course[6]);
      expect(course[7]).toBeNull();
      const counted = moves.filter((move) => move?.isChoice).length;
      expect(accuracy[0].moves + accuracy[1].moves).toBe(counted);
      // shorter and longer
      expect(findingsAlong(whole, codes.slice(0, 4)).moves).toEqual(
        whole.findings.moves.slice(0, 4),
      );
      expect(findingsAlong(whole, [...codes, 'more']).moves.at(-1)).toBeNull();
    });
  },
);

it.each([
  [['a', 'b'], ['a', 'b'], 2],
  [['a', 'b'], ['a', 'c'], 1],
  [['a'], ['a', 'b'], 1],
  [['a', 'b'], ['a'], 1],
  [[], ['a'], 0],
])('%j and %j have %d moves in common', (one, other, shared) => {
  expect(sharedMoves(one, other)).toBe(shared);
});

/** When this fails, a formula has changed: count REVIEW_RULES up, so that what is stored is reckoned anew, and note the digest. */
it('the rules of a review are those of their version', () => {
  const digest = createHash('sha256');
  for (const file of ['harbour-league-2025.pgn', 'lantern-circle-ladder.kifu']) {
    const record = read(file);
    digest.update(JSON.stringify(findingsFrom(record, evaluationsOf(record))));
  }
  expect([REVIEW_RULES, digest.digest('hex').slice(0, 16)]).toEqual([7, '7fac41684e5a7000']);
});
