import { describe, expect, it } from 'vitest';
import { rulesetOf } from '../rulesets';
import { walk } from './walk';

describe.each([
  ['chess', ['e2e4', 'e7e5', 'g1f3'], 'f1c4'],
  ['shogi', ['7g7f', '3c3d', '8h2b+'], '9i9a'],
] as const)('a walk along a line of %s', (kind, codes, then) => {
  const ruleset = rulesetOf(kind);
  const start = ruleset.start();

  it('gives each move with the positions before and after it', () => {
    const walked = walk(ruleset, start, codes);
    expect(walked.map(({ code }) => code)).toEqual(codes);
    expect(walked[0]!.before).toBe(start);
    for (const [index, { before, after, move, code }] of walked.entries()) {
      if (index > 0) expect(before).toBe(walked[index - 1]!.after);
      expect(ruleset.code(move)).toBe(code);
      expect(ruleset.write(after)).toBe(ruleset.write(ruleset.play(before, move)));
    }
  });

  it('ends at what is no move, or can not be played there', () => {
    expect(walk(ruleset, start, ['nonsense', ...codes])).toEqual([]);
    expect(walk(ruleset, start, [codes[0], codes[0], codes[1]])).toHaveLength(1);
    expect(walk(ruleset, start, [...codes, then])).toHaveLength(3);
    expect(walk(ruleset, start, [])).toEqual([]);
  });
});
