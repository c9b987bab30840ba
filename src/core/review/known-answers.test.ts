import { describe, expect, it } from 'vitest';
import { answersKnown, knownAnswers } from './known-answers';

const resting = (answers: number) => ({ depth: 1, lines: [], answers });

describe('how many answers are known', () => {
  it('is one sign a ply', () =>
    expect(knownAnswers([null, resting(1), resting(12), resting(35), resting(99)])).toBe('01czz'));

  it.each([
    ['01cz', 0, 0],
    ['01cz', 1, 1],
    ['01cz', 2, 12],
    ['01cz', 3, 35],
    // a page that knows of fewer plies knows nothing of the others
    ['01cz', 4, 0],
    ['', 0, 0],
  ])('%s at %d: %d', (text, ply, answers) => expect(answersKnown(text, ply)).toBe(answers));
});
