import { describe, expect, it } from 'vitest';
import { LIMITS } from '../game/problem';
import { FORMATS, readGames, streamGames, writeGame, type Format } from './formats';
import { LineSplitter } from './line-splitter';
import { isRead, type Reading } from './reading';

const KIF_GAMES = `#KIF
先手：Mirela
   1 ７六歩(77)
   2 ３四歩(33)

#KIF
先手：Aino
   1 ７六歩(77)
   2 ９九歩(33)
#KIF
先手：Jonas
   1 ２六歩(27)
`;
const TEXTS: Partial<Record<Format, string>> = {
  kif: KIF_GAMES,
  ki2: '先手：Mirela\n\n▲７六歩 △３四歩\n先手：Aino\n▲９九歩\n先手：Jonas\n▲２六歩\n',
  csa: "'CSA encoding=UTF-8\nN+Mirela\nPI\n+\n+7776FU,T1\n/\n\nPI\n+\n+7775FU\n/\nPI\n+\n+2726FU\n",
  sfen: '# first\nstartpos moves 7g7f\n\nstartpos moves 7g7a\nstartpos\n',
  fen: '4k3/8/8/8/8/8/8/4K3 w - - 0 1\n\n4k3/8/8/8/8/8/8/8 w - - 0 1\n4k3/8/8/8/8/8/8/4K2R b K - 0 1',
  epd: '4k3/8/8/8/8/8/8/4K3 w - - id "a";\n4k3/8 w - -\n4k3/8/8/8/8/8/8/4K2R b K - bm Kd7;\n',
  pgn: '[White "A"]\n\n1. e4 *\n\n[White "B"]\n\n1. e9 *\n\n[White "C"]\n\n1. d4 *\n',
};

/** What is told of each game: where it begins, and what it is or what is wrong with it. */
const told = (format: Format, readings: Iterable<Reading>): unknown[] =>
  Array.from(readings, (reading) =>
    isRead(reading)
      ? [reading.line, writeGame(reading.record, format)]
      : [reading.problem.place, reading.problem.code, reading.text],
  );

const inPieces = function* (format: Format, text: string, size: number): Generator<Reading> {
  const stream = streamGames(format);
  for (let at = 0; at < text.length; at += size) yield* stream.push(text.slice(at, at + size));
  yield* stream.end();
};

describe.each(FORMATS)('games in %s', (format) => {
  const text = TEXTS[format]!;
  const expected = told(format, readGames(text, format));

  it('are read beside one that can’t be, each with its place', () => {
    const readings = [...readGames(text, format)];
    expect(readings.map(isRead)).toEqual([true, false, true]);
    const [, failed] = readings;
    expect(!isRead(failed!) && failed!.problem.place.game).toBe(2);
  });

  it('are the same in pieces that are cut anywhere', () => {
    for (let size = 1; size < 24; size++)
      expect(told(format, inPieces(format, text, size))).toEqual(expected);
  });

  it('are the same whatever ends lines, and behind a byte order mark', () => {
    for (const end of ['\r\n', '\r']) {
      const other = `\ufeff${text.replaceAll('\n', end)}`;
      const withoutText = (all: unknown[]) => all.map((one) => (one as unknown[]).slice(0, 2));
      for (const size of [1, 2, 7, other.length])
        expect(withoutText(told(format, inPieces(format, other, size)))).toEqual(
          withoutText(expected),
        );
    }
  });
});

describe('a game that is longer than one may be', () => {
  const most = LIMITS.gameLength;
  const comment = `*${'x'.repeat(100_000)}\n`;
  const long = `#KIF\n先手：Long\n   1 ７六歩(77)\n${comment.repeat(Math.ceil(most / comment.length) + 1)}`;

  it('is refused with its place, not kept, and those beside it are read', () => {
    const [first, refused, last, ...more] = readGames(
      `${KIF_GAMES.slice(0, 50)}\n${long}${KIF_GAMES.slice(-30)}`,
      'kif',
    );
    expect(isRead(first!) && isRead(last!)).toBe(true);
    expect(refused).toEqual({
      problem: {
        code: 'limit.gameLength',
        params: { most },
        place: { line: 6, column: 1, game: 2 },
      },
    });
    expect(more).toEqual([]);
  });

  it('is refused likewise where it is one line', () => {
    const line = `#KIF\n${'x'.repeat(most)}\n`;
    expect([...readGames(line, 'kif')]).toEqual([
      {
        problem: {
          code: 'limit.gameLength',
          params: { most },
          place: { line: 1, column: 1, game: 1 },
        },
      },
    ]);
  });
});

describe('a line', () => {
  it('ends with what ends it, wherever the text is cut', () => {
    const text = 'a\r\nb\rc\n\nd\u2028e';
    for (let size = 1; size <= text.length; size++) {
      const splitter = new LineSplitter();
      const lines = [];
      for (let at = 0; at < text.length; at += size)
        lines.push(...splitter.push(text.slice(at, at + size)));
      lines.push(...splitter.end());
      expect(lines.map((line) => line.text)).toEqual(['a\r\n', 'b\r', 'c\n', '\n', 'd\u2028e']);
      expect(lines.map(({ length }) => length)).toEqual([3, 2, 2, 1, 3]);
    }
  });

  it('may end the text by a return alone', () => {
    const splitter = new LineSplitter();
    expect([...splitter.push('a\r')]).toEqual([]);
    expect([...splitter.end()]).toEqual([{ text: 'a\r', length: 2 }]);
  });
});
