import type { GameKind } from '@/core/game/ruleset';
import { extensionOf, formatsFor, type Format } from '@/core/notation/formats';
import type { PlayingLevel } from './opening-tree';
import type { Clock } from './thinking-times';

/** A base of made-up games: nobody in it exists, and no event of it took place. */
export interface DemoBase {
  kind: GameKind;
  /** File under demo/bases, without its ending. */
  file: string;
  /** As the app shows it. */
  name: string;
  level: PlayingLevel;
  games: number;
  /** Nodes that a player of this rating sees. */
  nodes: number;
  rating: number;
  players: readonly { name: string; rating: number }[];
  years: readonly [first: number, last: number];
  events: readonly string[];
  controls: readonly (Clock & { text: string })[];
}

/** In what the games of a base are written. */
export const baseFormat = ({ kind }: DemoBase): Format => formatsFor(kind)[0]!;

/** The packed games of a base under demo/bases. */
export const baseFile = (base: DemoBase): string =>
  `${base.file}.${extensionOf(baseFormat(base))}.gz`;

const FIRST =
  'Alva Bence Cosmin Dagny Edda Fabrice Goran Hedvig Ilmari Janka Katrin Lorcan Maël Noor Odile Petar Quirin Runa Silvio Tove Ugo Vesna Wim Ylva'.split(
    ' ',
  );
const LAST =
  'Abendroth Bergqvist Corbelet Dravec Eskola Fontanez Grimsby Hollander Iversdal Jankovits Kestrel Lindqvist Marchetto Nystrand Orlovic Pellerin Quintrell Rosvall Sandvoort Tremayn Ulvang Vandermeer Wexford Zabaleta'.split(
    ' ',
  );
const FAMILY =
  '有馬 磯村 卯月 遠藤寺 梶尾 霧島田 小夜川 汐見沢 園部野 灘波 浅葱 早乙女川 月岡原 葉山路 深水谷 真鶴'.split(
    ' ',
  );
const GIVEN = '一颯 楓太 小春 慎之介 澪 航平 千景 拓海 紗那 悠里'.split(' ');

/** So many made-up people, spread evenly over a range of ratings. */
function people(
  firsts: readonly string[],
  lasts: readonly string[],
  join: (first: string, last: string) => string,
  count: number,
  [from, to]: readonly [number, number],
) {
  return Array.from({ length: count }, (_, index) => ({
    name: join(
      firsts[(index * 7) % firsts.length]!,
      lasts[(index * 5 + Math.floor(index / 24)) % lasts.length]!,
    ),
    rating: from + Math.round(((to - from) * ((index * 37) % count)) / count),
  }));
}
const western = (first: string, last: string): string => `${first} ${last}`;
const japanese = (given: string, family: string): string => `${family} ${given}`;

const LONG = { text: '5400+30', base: 5400, increment: 30, byoyomi: 0 };
const RAPID = { text: '900+10', base: 900, increment: 10, byoyomi: 0 };
const BLITZ = { text: '180+2', base: 180, increment: 2, byoyomi: 0 };
const SHOGI_LONG = { text: '3600+60', base: 3600, increment: 0, byoyomi: 60 };
const SHOGI_RAPID = { text: '600+30', base: 600, increment: 0, byoyomi: 30 };

export const BASES: readonly DemoBase[] = [
  {
    kind: 'chess',
    file: 'chess-strong',
    name: 'Strong chess (made up)',
    level: 'strong',
    games: 2500,
    nodes: 2600,
    rating: 2300,
    players: people(FIRST, LAST, western, 80, [2120, 2480]),
    years: [2016, 2025],
    events: ['Lighthouse Masters', 'Salt Coast Open', 'Amber Gate Invitational'],
    controls: [LONG, LONG, RAPID],
  },
  {
    kind: 'chess',
    file: 'chess-club',
    name: 'Club chess (made up)',
    level: 'club',
    games: 2500,
    nodes: 420,
    rating: 1650,
    players: people(FIRST.toReversed(), LAST, western, 140, [1380, 1930]),
    years: [2016, 2025],
    events: ['Quayside League', 'Tuesday Ladder', 'Foghorn Open'],
    controls: [LONG, RAPID, BLITZ, BLITZ],
  },
  {
    kind: 'shogi',
    file: 'shogi-strong',
    name: 'Strong shogi (made up)',
    level: 'strong',
    games: 750,
    nodes: 4200,
    rating: 2100,
    players: people(GIVEN, FAMILY, japanese, 50, [1950, 2250]),
    years: [2016, 2025],
    events: ['千波戦', '月影杯'],
    controls: [SHOGI_LONG, SHOGI_RAPID],
  },
  {
    kind: 'shogi',
    file: 'shogi-club',
    name: 'Club shogi (made up)',
    level: 'club',
    games: 750,
    nodes: 900,
    rating: 1550,
    players: people(GIVEN.toReversed(), FAMILY.toReversed(), japanese, 70, [1300, 1800]),
    years: [2016, 2025],
    events: ['行灯リーグ', '夕凪会例会'],
    controls: [SHOGI_RAPID, SHOGI_LONG],
  },
];
