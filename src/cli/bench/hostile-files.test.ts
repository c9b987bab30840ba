import { describe, expect, it } from 'vitest';
import { formatKind, FORMATS, readGames, writeGame } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { HOSTILE_FILES } from './hostile-files';
import { DEMO_FILES, mutated } from './mutated-files';

/** So long that what takes quadratic time would not end within the tests' limit. */
const LONG = 1_500_000;

describe('files that are made to be slow are read, or refused with a place', () => {
  it.each(HOSTILE_FILES.map((file) => [`${file.format}: ${file.name}`, file] as const))(
    '%s',
    (_, { format, isGame, text }) => {
      let last;
      let count = 0;
      for (const reading of readGames(text(LONG), format)) {
        last = reading;
        count++;
      }
      expect(count).toBeGreaterThan(0);
      if (isGame) expect(last && isRead(last)).toBe(true);
      if (last && isRead(last)) expect(writeGame(last.record, format)).not.toBe('');
      else {
        expect(last!.problem.place.line).toBeGreaterThan(0);
        expect(JSON.stringify(last!.problem).length).toBeLessThan(1000);
      }
    },
  );
});

describe('files that were damaged', () => {
  it('are read as far as they can be, and what was read can be written', () => {
    let read = 0;
    let refused = 0;
    for (let seed = 0; seed < 400; seed++) {
      const { text, format } = mutated(DEMO_FILES[seed % DEMO_FILES.length]!, seed);
      for (const reading of readGames(text, format)) {
        if (!isRead(reading)) {
          refused++;
          expect(reading.problem.code).toMatch(/^[a-z]+\.[A-Za-z]+$/);
          continue;
        }
        read++;
        for (const other of FORMATS)
          if (formatKind(other) === reading.record.tree.kind) writeGame(reading.record, other);
      }
    }
    expect(read).toBeGreaterThan(250);
    expect(refused).toBeGreaterThan(100);
  });
});
