import { describe, expect, it } from 'vitest';
import { HOSTILE_FILES } from '../../../tests/support/hostile';
import { readGames, writeGame } from './formats';
import { isRead } from './reading';

/** So long that what takes quadratic time would not end within the tests' limit. */
const LONG = 1_500_000;

describe('files that are made to be slow are read, or refused with a place', () => {
  it.each(HOSTILE_FILES.map((file) => [`${file.format}: ${file.name}`, file] as const))(
    '%s',
    (_, { format, text }) => {
      let last;
      let count = 0;
      for (const reading of readGames(text(LONG), format)) {
        last = reading;
        count++;
      }
      expect(count).toBeGreaterThan(0);
      if (last && isRead(last)) expect(writeGame(last.record, format)).not.toBe('');
      else {
        expect(last!.problem.place.line).toBeGreaterThan(0);
        expect(JSON.stringify(last).length).toBeLessThan(1000);
      }
    },
  );
});
