import type { GameKind } from '@/core/game/ruleset';
import { HANDICAPS } from '@/core/shogi/handicaps';

/**
 * A made-up scenario: Mirela Tanase of the Velden Chess Club plays chess in the Harbour League and at weekend
 * opens, and shogi in the Lantern Circle. She coaches Nele Hartog, who plays in the same places. No person, club or event of it exists.
 */
export const OWN_PLAYER = 'Mirela Tanase';
export const STUDENT = 'Nele Hartog';

export interface Contestant {
  name: string;
  rating: number;
  club: string;
  country: string;
  title?: string;
}

export interface DemoEvent {
  kind: GameKind;
  /** File in the folder of whose games they are, without its ending. */
  file: string;
  event: string;
  site: string;
  rated: boolean;
  /** As the format of the game writes it. */
  timeControl: string;
  base: number;
  increment: number;
  byoyomi: number;
  games: number;
  /** Day of the first round, and days between rounds. */
  from: string;
  every: number;
  time: string;
  own: { rating: number; gain: number };
  opponents: readonly Contestant[];
  /** SFENs to start from in turn, where not the ordinary start. */
  starts?: readonly string[];
}

const chessPlayers: readonly Contestant[] = [
  { name: 'Jonas Brandt', rating: 1874, club: 'Kesswil Rooks', country: 'SUI' },
  { name: 'Aino Lehtisaari', rating: 1790, club: 'Northlight Chess', country: 'FIN' },
  { name: 'Pascal Ferrand-Duval', rating: 1932, club: 'Cercle du Quai', country: 'FRA' },
  { name: 'Ottilie Krampe', rating: 1688, club: 'Velden Chess Club', country: 'AUT' },
  { name: 'Radomir Vlašek', rating: 2041, club: 'Sokol Lipnice', country: 'CZE', title: 'CM' },
  { name: 'Ines Carvalhal', rating: 1755, club: 'Ribeira Knights', country: 'POR' },
  { name: 'Tobias Nørregaard', rating: 1811, club: 'Fjordside', country: 'DEN' },
  { name: 'Henrike Osterloh', rating: 1620, club: 'Kesswil Rooks', country: 'GER' },
  { name: 'Dmitar Pavlović', rating: 1968, club: 'Sokol Lipnice', country: 'SRB' },
  { name: 'Siobhán Mac Rory', rating: 1843, club: 'Harbour Gambit', country: 'IRL' },
];

const shogiPlayers: readonly Contestant[] = [
  { name: '佐倉 結', rating: 1540, club: '灯籠会', country: 'JPN', title: '初段' },
  { name: '浜口 志朗', rating: 1710, club: '灯籠会', country: 'JPN', title: '三段' },
  { name: 'Bogdan Ionaș', rating: 1490, club: 'Lantern Circle', country: 'ROU', title: '1-kyu' },
  { name: '片桐 万里', rating: 1625, club: '水無月クラブ', country: 'JPN', title: '二段' },
  { name: 'Lotte Veenstra', rating: 1455, club: 'Lantern Circle', country: 'NED', title: '2-kyu' },
  { name: '名取 昴', rating: 1830, club: '水無月クラブ', country: 'JPN', title: '四段' },
];

const handicap = (name: string): string => HANDICAPS.find((known) => known.name === name)!.start;

const moves = (text: string): string[] => text.split(' ');

/** How the games of the scenario begin. */
export const OPENINGS: Record<GameKind, readonly string[][]> = {
  chess: [
    moves('e2e4 e7e5 g1f3 b8c6 f1c4 f8c5 c2c3 g8f6'),
    moves('e2e4 e7e5 g1f3 b8c6 f1b5 a7a6 b5a4 g8f6'),
    moves('e2e4 c7c5 g1f3 d7d6 d2d4 c5d4 f3d4 g8f6'),
    moves('e2e4 e7e6 d2d4 d7d5 b1c3 g8f6'),
    moves('e2e4 c7c6 d2d4 d7d5 b1c3 d5e4 c3e4 c8f5'),
    moves('d2d4 d7d5 c2c4 e7e6 b1c3 g8f6 c1g5 f8e7'),
    moves('d2d4 g8f6 c2c4 g7g6 b1c3 f8g7 e2e4 d7d6'),
    moves('d2d4 d7d5 g1f3 g8f6 c1f4 c7c5'),
    moves('c2c4 e7e5 b1c3 g8f6 g2g3 d7d5'),
    moves('g1f3 d7d5 g2g3 g8f6 f1g2 e7e6'),
  ],
  shogi: [
    moves('7g7f 3c3d 2g2f 8c8d 2f2e 8d8e 6i7h 4a3b'),
    moves('7g7f 3c3d 6g6f 8c8d 7i7h 7a6b 2h6h 5a4b'),
    moves('2g2f 8c8d 2f2e 8d8e 7g7f 4a3b 8h7g 3c3d'),
    moves('7g7f 8c8d 7i6h 3c3d 6g6f 7a6b'),
    moves('7g7f 3c3d 7f7e 8c8d 2h7h 5a4b'),
  ],
};

/** Mirela's events. */
const EVENTS: readonly DemoEvent[] = [
  {
    kind: 'chess',
    file: 'harbour-league-2025',
    event: 'Harbour League 2025/26',
    site: 'Velden',
    rated: true,
    timeControl: '5400+30',
    base: 5400,
    increment: 30,
    byoyomi: 0,
    games: 18,
    from: '2025-09-20',
    every: 14,
    time: '14:00:00',
    own: { rating: 1788, gain: 3 },
    opponents: chessPlayers,
  },
  {
    kind: 'chess',
    file: 'lakeside-rapid',
    event: 'Lakeside Rapid',
    site: 'Kesswil',
    rated: true,
    timeControl: '900+10',
    base: 900,
    increment: 10,
    byoyomi: 0,
    games: 21,
    from: '2025-11-08',
    every: 7,
    time: '10:30:00',
    own: { rating: 1801, gain: 2 },
    opponents: chessPlayers.toReversed(),
  },
  {
    kind: 'chess',
    file: 'tuesday-blitz',
    event: 'Tuesday Blitz',
    site: 'Velden',
    rated: false,
    timeControl: '300+3',
    base: 300,
    increment: 3,
    byoyomi: 0,
    games: 24,
    from: '2026-03-03',
    every: 7,
    time: '19:15:00',
    own: { rating: 1810, gain: 1 },
    opponents: [...chessPlayers.slice(3), ...chessPlayers.slice(0, 3)],
  },
  {
    kind: 'shogi',
    file: 'lantern-circle-ladder',
    event: 'Lantern Circle Ladder',
    site: 'Velden',
    rated: true,
    timeControl: '30分+30秒',
    base: 1800,
    increment: 0,
    byoyomi: 30,
    games: 16,
    from: '2025-10-04',
    every: 14,
    time: '13:00:00',
    own: { rating: 1510, gain: 6 },
    opponents: shogiPlayers,
  },
  {
    kind: 'shogi',
    file: 'lantern-circle-handicap-day',
    event: 'Lantern Circle Handicap Day',
    site: 'Velden',
    rated: false,
    timeControl: '10分+20秒',
    base: 600,
    increment: 0,
    byoyomi: 20,
    games: 6,
    from: '2026-05-16',
    every: 0,
    time: '10:00:00',
    own: { rating: 1560, gain: 0 },
    opponents: shogiPlayers.toReversed(),
    starts: [handicap('lance'), handicap('bishop'), handicap('rook'), handicap('two pieces')],
  },
];

/** Her student's. */
const STUDENT_EVENTS: readonly DemoEvent[] = [
  {
    kind: 'chess',
    file: 'velden-juniors',
    event: 'Velden Juniors',
    site: 'Velden',
    rated: true,
    timeControl: '1800+10',
    base: 1800,
    increment: 10,
    byoyomi: 0,
    games: 10,
    from: '2026-01-10',
    every: 14,
    time: '10:00:00',
    own: { rating: 1415, gain: 6 },
    opponents: [
      { name: 'Emil Raczek', rating: 1380, club: 'Velden Chess Club', country: 'AUT' },
      { name: 'Fenna Dijkhuis', rating: 1465, club: 'Kesswil Rooks', country: 'NED' },
      { name: 'Luka Perić', rating: 1510, club: 'Harbour Gambit', country: 'CRO' },
      { name: 'Saoirse Quill', rating: 1340, club: 'Harbour Gambit', country: 'IRL' },
    ],
  },
  {
    kind: 'shogi',
    file: 'lantern-circle-evenings',
    event: 'Lantern Circle Evenings',
    site: 'Velden',
    rated: true,
    timeControl: '15分+30秒',
    base: 900,
    increment: 0,
    byoyomi: 30,
    games: 6,
    from: '2026-02-05',
    every: 14,
    time: '18:30:00',
    own: { rating: 1290, gain: 8 },
    opponents: shogiPlayers.slice(2).filter(({ rating }) => rating < 1600),
  },
];

/** Whose games there are, and in which folder under demo. */
export const LIBRARIES = [
  { player: OWN_PLAYER, folder: 'games', events: EVENTS },
  { player: STUDENT, folder: 'student', events: STUDENT_EVENTS },
] as const;
