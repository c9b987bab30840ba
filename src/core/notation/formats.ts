import type { GameRecord, Tag } from '../game/record';
import type { GameKind } from '../game/ruleset';
import { nodesInOrder } from '../game/tree';
import { CSA } from './csa/read-csa';
import { writeCsa } from './csa/write-csa';
import { EPD, isEpdTag, writeEpd } from './epd/epd';
import type { GameStream } from './game-stream';
import { KI2 } from './ki2/read-ki2';
import { writeKi2 } from './ki2/write-ki2';
import { KIF } from './kif/read-kif';
import { writeKif } from './kif/write-kif';
import { LineStream } from './line-stream';
import { readPgnSections } from './pgn/read-pgn';
import { PgnSplitter } from './pgn/split-pgn';
import { writePgn } from './pgn/write-pgn';
import { positionLines, writePositionLine } from './position-lines';
import type { Reading } from './reading';

export const FORMATS = ['pgn', 'epd', 'fen', 'kif', 'ki2', 'csa', 'sfen'] as const;
export type Format = (typeof FORMATS)[number];

interface FormatDefinition {
  kind: GameKind;
  extensions: readonly string[];
  stream: () => GameStream;
  write(record: GameRecord): string;
  /** What it can't hold of a game. */
  lacks: readonly Lack[];
  /** Which tags it holds, where that is not all or none. */
  holdsTag?(tag: Tag): boolean;
}

class PgnStream implements GameStream {
  private readonly splitter = new PgnSplitter();
  private game = 1;

  *push(text: string): Generator<Reading> {
    this.game = yield* readPgnSections(this.splitter.push(text), this.game);
  }

  *end(): Generator<Reading> {
    yield* readPgnSections(this.splitter.end(), this.game);
  }
}

/** Names, in the message catalogue, of what a format can't hold. */
export type Lack =
  'variations' | 'comments' | 'clocks' | 'times' | 'tags' | 'moves' | 'passes' | 'before';

const DEFINITIONS: Record<Format, FormatDefinition> = {
  pgn: {
    kind: 'chess',
    extensions: ['pgn'],
    stream: () => new PgnStream(),
    write: writePgn,
    lacks: [],
  },
  epd: {
    kind: 'chess',
    extensions: ['epd'],
    stream: () => new LineStream(EPD),
    write: writeEpd,
    lacks: ['moves', 'variations', 'comments', 'clocks', 'times', 'tags'],
    holdsTag: isEpdTag,
  },
  fen: {
    kind: 'chess',
    extensions: ['fen'],
    stream: () => new LineStream(positionLines('chess')),
    write: writePositionLine,
    lacks: ['variations', 'comments', 'clocks', 'times', 'tags'],
  },
  kif: {
    kind: 'shogi',
    extensions: ['kif', 'kifu'],
    stream: () => new LineStream(KIF),
    write: writeKif,
    lacks: ['passes', 'before'],
  },
  ki2: {
    kind: 'shogi',
    extensions: ['ki2', 'ki2u'],
    stream: () => new LineStream(KI2),
    write: writeKi2,
    lacks: ['variations', 'times', 'passes', 'before'],
  },
  csa: {
    kind: 'shogi',
    extensions: ['csa'],
    stream: () => new LineStream(CSA),
    write: writeCsa,
    lacks: ['variations', 'passes', 'before'],
  },
  sfen: {
    kind: 'shogi',
    extensions: ['sfen', 'usi'],
    stream: () => new LineStream(positionLines('shogi')),
    write: writePositionLine,
    lacks: ['variations', 'comments', 'clocks', 'times', 'tags'],
  },
};

export const formatKind = (format: Format): GameKind => DEFINITIONS[format].kind;

/** The format that a file name's ending stands for, or null. */
export function formatOfName(name: string): Format | null {
  const extension = /\.([^.]+)$/.exec(name)?.[1]?.toLowerCase();
  return FORMATS.find((format) => DEFINITIONS[format].extensions.includes(extension ?? '')) ?? null;
}

/** What a text looks like, from its first lines; null where it resembles nothing known. */
export function formatOfText(text: string): Format | null {
  const head = text.slice(0, 4000).replace(/^\ufeff/, '');
  if (/^\s*\[\s*[A-Za-z0-9_]+\s*"/m.test(head)) return 'pgn';
  if (/^'CSA|^V\d|^PI|^P1[+-]|^\+\d{4}[A-Z]{2}|^N\+/m.test(head)) return 'csa';
  if (/^\s*\d+\s+(?:[1-9１-９][一二三四五六七八九1-9１-９]|同)/m.test(head)) return 'kif';
  if (/^\s*[▲△▽☗☖]/m.test(head)) return 'ki2';
  if (/^(?:#KIF|手合割|開始日時|先手[：:])/m.test(head)) return 'kif';
  const line = head.split(/\r\n|\n|\r/).find((candidate) => candidate.trim() !== '') ?? '';
  if (/^(?:position\s+)?(?:sfen\s+)?[^\s/]+(?:\/[^\s/]+){8}\s+[bw]\s/.test(line)) return 'sfen';
  if (/^position\s+startpos\s+moves\s+\d[a-i]/.test(line)) return 'sfen';
  if (/^(?:position\s+)?(?:fen\s+)?[^\s/]+(?:\/[^\s/]+){7}\s+[bw]\s/.test(line))
    return /;\s*$/.test(line) ? 'epd' : 'fen';
  if (/^\s*1\s*\.\s*[a-hKQRBNO♔-♟]/m.test(head)) return 'pgn';
  return null;
}

/** Reads games from a text that comes in pieces. */
export const streamGames = (format: Format): GameStream => DEFINITIONS[format].stream();

/** Reads all games of a text. */
export function* readGames(text: string, format: Format): Generator<Reading> {
  const stream = streamGames(format);
  yield* stream.push(text);
  yield* stream.end();
}

/** What the name of a file in a format ends with; KIF in UTF-8 has an ending of its own. */
export const extensionOf = (format: Format): string => (format === 'kif' ? 'kifu' : format);

/** Formats that older programs read in Shift_JIS. */
export const hasLegacyEncoding = (format: Format): boolean => format === 'kif' || format === 'ki2';

/** What stands between two games of a file. */
export const separatorOf = (format: Format): string =>
  format === 'csa' ? '/\n' : format === 'kif' || format === 'ki2' ? '\n' : '';

export const writeGame = (record: GameRecord, format: Format): string =>
  DEFINITIONS[format].write(record);

/** Formats that a game can be written in, the fullest first. */
export const formatsFor = (kind: GameKind): Format[] =>
  FORMATS.filter((format) => DEFINITIONS[format].kind === kind);

/** What a format can hold of no game. */
export const lacksOf = (format: Format): readonly Lack[] => DEFINITIONS[format].lacks;

/** What would be lost of this very game in the format: to be said before writing. */
export function lossesIn(record: GameRecord, format: Format): Lack[] {
  const { lacks, holdsTag = () => false } = DEFINITIONS[format];
  const nodes = [...nodesInOrder(record.tree)];
  const has: Record<Lack, () => boolean> = {
    variations: () => nodes.some(({ children }) => children.length > 1),
    comments: () =>
      nodes.some(
        ({ comment, symbols, marks, lesson, cause }) =>
          comment || symbols?.length || marks?.length || lesson || cause,
      ),
    clocks: () => nodes.some(({ clock }) => clock !== undefined),
    times: () => nodes.some(({ spent }) => spent !== undefined),
    tags: () => record.tags.some((tag) => !holdsTag(tag)),
    moves: () => nodes.length > 1,
    passes: () => nodes.some(({ parent, move }) => parent !== null && move === 0),
    before: () => nodes.some(({ before }) => before !== undefined),
  };
  return lacks.filter((lack) => has[lack]());
}
