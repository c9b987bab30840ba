// Makes the demo games anew: ./bektra demo. The same every time: every choice comes from a fixed seed.
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { tagNameOf } from '@/core/game/info';
import type { GameRecord, Tag } from '@/core/game/record';
import type { Side } from '@/core/game/ruleset';
import { ROOT, TreeBuilder } from '@/core/game/tree';
import { writeGame } from '@/core/notation/formats';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from '@/engine/hosts/node';
import { randomSource } from '@/engine/draw';
import { playGame, type Level, type PlayedGame } from '@/engine/self-play';
import type { SearchModule } from '@/engine/search-module';
import { HASTE, nodesOf, TEMPERATURE } from './levels';
import { thinkingTimes } from './thinking-times';
import { LIBRARIES, OPENINGS, type Contestant, type DemoEvent } from './scenario';

/** Of whose games they are. */
const CLUB = { club: 'Velden Chess Club', country: 'AUT' };

function dateOf(event: DemoEvent, round: number): string {
  const day = new Date(`${event.from}T00:00:00Z`);
  day.setUTCDate(day.getUTCDate() + event.every * round);
  return day.toISOString().slice(0, 10).replaceAll('-', '.');
}

const WORDS = {
  hasty: ['Played at once. Ask first what the reply is.', 'Too fast: I had the time to look.'],
  slow: ['I thought long and still missed it.', 'Saw the idea, but not the move before it.'],
} as const;

function makeGame(
  player: string,
  event: DemoEvent,
  round: number,
  module: SearchModule,
): GameRecord {
  const ruleset = rulesetOf(event.kind);
  const random = randomSource(7919 * round + event.file.length * 104_729 + event.games);
  const opponent = event.opponents[round % event.opponents.length]!;
  const own = { ...CLUB, name: player, rating: event.own.rating + event.own.gain * round };
  const ownSide: Side = event.starts ? 0 : ((round % 2) as Side);
  const players = ownSide === 0 ? [own, opponent] : [opponent, own];
  const start = event.starts?.[round % event.starts.length] ?? ruleset.startText;
  const times = thinkingTimes(event, 400, random);
  const levelAt = (side: Side, ply: number): Level => {
    const nodes = nodesOf(event.kind, players[side]!.rating);
    const hasty = times[ply]! < 5 && ply > 12;
    return { nodes: hasty ? Math.round(nodes / HASTE) : nodes, temperature: TEMPERATURE };
  };
  const openings = event.starts ? [[]] : OPENINGS[event.kind];
  const opening = openings[Math.floor(random() * openings.length)]!;
  const game = playGame(ruleset, module, { start, opening, levelAt, random });
  return recordOf(event, round, start, players, ownSide, game, times, random);
}

function recordOf(
  event: DemoEvent,
  round: number,
  start: string,
  players: readonly Contestant[],
  ownSide: Side,
  game: PlayedGame,
  times: readonly number[],
  random: () => number,
): GameRecord {
  const ruleset = rulesetOf(event.kind);
  const tree = new TreeBuilder(event.kind, ruleset.write(ruleset.start(start)));
  const first = ruleset.side(ruleset.start(start));
  const left = [event.base, event.base];
  let node = ROOT;
  const worst = worstOwnMove(game, ownSide, first);
  game.moves.forEach(({ move }, ply) => {
    const side = (first + ply) % 2;
    node = tree.add(node, move);
    left[side] = Math.max(0, left[side]! - times[ply]!) + event.increment;
    if (event.kind === 'chess') tree.node(node).clock = left[side]! * 1000;
    else tree.node(node).spent = times[ply]! * 1000;
    if (ply === worst && round % 3 === 0) {
      const words = times[ply]! < 6 ? WORDS.hasty : WORDS.slow;
      tree.node(node).comment = words[Math.floor(random() * words.length)]!;
    }
  });
  return {
    tree: tree.build(),
    tags: tagsOf(event, round, players, game),
    result: game.result,
    end: event.kind === 'shogi' ? game.end : null,
  };
}

/** The ply after which the own side saw its chances drop most, or -1. */
function worstOwnMove(game: PlayedGame, ownSide: Side, first: Side): number {
  const seen = game.moves.map(({ score }) =>
    score.kind === 'cp' ? score.cp : score.winner === 0 ? 1500 : -1500,
  );
  let worst = -1;
  let most = 150;
  for (let ply = 2; ply + 2 < seen.length; ply++) {
    if ((first + ply) % 2 !== ownSide) continue;
    const drop = (seen[ply]! - seen[ply + 2]!) * (ownSide === 0 ? 1 : -1);
    if (drop <= most || Math.abs(seen[ply]!) > 700) continue;
    most = drop;
    worst = ply;
  }
  return worst;
}

function tagsOf(
  event: DemoEvent,
  round: number,
  players: readonly Contestant[],
  game: PlayedGame,
): Tag[] {
  const { sides } = rulesetOf(event.kind);
  const tags: [string, string | undefined][] = [
    ['Event', event.event],
    ['Site', event.site],
    ['Date', dateOf(event, round)],
    ['Round', String(round + 1)],
    [tagNameOf(sides[0]), players[0]!.name],
    [tagNameOf(sides[1]), players[1]!.name],
  ];
  if (event.kind === 'chess') tags.sort(([a], [b]) => ORDER.indexOf(a) - ORDER.indexOf(b));
  tags.push(['Time', event.time]);
  sides.forEach((side, index) => {
    const { rating, title, club, country } = players[index]!;
    const name = tagNameOf(side);
    tags.push([`${name}Elo`, String(rating)], [`${name}Title`, title]);
    tags.push([`${name}Team`, club], [`${name}Country`, country]);
  });
  tags.push(['TimeControl', event.timeControl], ['Rated', event.rated ? 'yes' : 'no']);
  if (event.kind === 'chess') tags.push(['Termination', game.end]);
  return tags.flatMap(([name, value]) => (value === undefined ? [] : [{ name, value }]));
}

const ORDER = ['Event', 'Site', 'Date', 'Round', 'White', 'Black'];

/** Plays all games of the scenario and writes them to folders under demo, a file an event. */
export async function makeDemoGames(root: string): Promise<void> {
  for (const { player, folder, events } of LIBRARIES) {
    await mkdir(join(root, 'demo', folder), { recursive: true });
    for (const event of events) {
      const modules = join(root, 'dist/engine');
      const search = await loadSearch({ modules }, event.kind, { table: 1 });
      const format = event.kind === 'chess' ? 'pgn' : 'kif';
      const games = Array.from({ length: event.games }, (_, round) =>
        makeGame(player, event, round, search),
      );
      const text = games
        .map((record) => writeGame(record, format))
        .join(format === 'kif' ? '\n' : '');
      const file = `${event.file}.${format === 'kif' ? 'kifu' : 'pgn'}`;
      await writeFile(join(root, 'demo', folder, file), text);
      process.stdout.write(`${folder}/${file}: ${games.length} games\n`);
    }
  }
}
