import { evaluate } from '@/core/ask/evaluate';
import type { Ask } from '@/core/ask/question';
import type { GameKind, Position } from '@/core/game/ruleset';
import { GAME_KINDS } from '@/core/game/ruleset';
import { formatKind, FORMATS, readGames, writeGame } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { settingsText, type SearchSettings } from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { loadSearch } from '@/engine/hosts/node';
import type { SearchModule } from '@/engine/search-module';
import { ENGINE_FILES } from '../engine-files';
import { bestOf, report } from './figures';
import { HOSTILE_FILES } from './hostile-files';
import { DEMO_FILES, mutated } from './mutated-files';

const LENGTH = 500_000;
const MUTATIONS = 10_000;
const GAMES = 200;
const UNSTOPPED = { shouldStop: () => false, now: () => performance.now() };

/** What is asked of the reader by files made to be slow or damaged, and of a sweep by games that are decided. */
export async function benchFaults(games = GAMES): Promise<void> {
  benchHostile();
  benchMutated();
  for (const kind of GAME_KINDS) await benchDecided(kind, Math.ceil(games / GAME_KINDS.length));
}

/** How the time to read and write a hostile file grows when it is four times as long: 4 where it is in proportion. */
function benchHostile(): void {
  let worst = { ratio: 0, name: '' };
  for (const { name, format, text } of HOSTILE_FILES) {
    const seconds = (length: number): number => {
      const file = text(length);
      return bestOf(2, () => {
        for (const reading of readGames(file, format))
          if (isRead(reading)) writeGame(reading.record, format);
      });
    };
    const [short, long] = [seconds(LENGTH), seconds(4 * LENGTH)];
    // below a millisecond there is nothing to compare
    const ratio = long / Math.max(short, 0.001);
    if (ratio > worst.ratio) worst = { ratio, name: `${format}, ${name}` };
    report(`${format}, ${name}`, `${(1000 * long).toFixed(0)} ms, × ${ratio.toFixed(1)}`);
  }
  report('worst growth for four times the length', `× ${worst.ratio.toFixed(1)} (${worst.name})`);
}

function benchMutated(): void {
  let read = 0;
  let refused = 0;
  let broken = 0;
  for (let seed = 0; seed < MUTATIONS; seed++) {
    const { text, format } = mutated(DEMO_FILES[seed % DEMO_FILES.length]!, seed);
    try {
      for (const reading of readGames(text, format)) {
        if (!isRead(reading)) refused++;
        else {
          read++;
          for (const other of FORMATS)
            if (formatKind(other) === reading.record.tree.kind) writeGame(reading.record, other);
        }
      }
    } catch (error) {
      broken++;
      report(`seed ${seed}, ${format}`, String(error).slice(0, 100));
    }
  }
  report(
    `${MUTATIONS} damaged files`,
    `${read} games read, ${refused} refused, ${broken} exceptions`,
  );
}

/** The presets of a sweep, with how many of the positions are looked at: the dearer, the fewer. */
const PRESETS: readonly (readonly [SearchSettings, number])[] = [
  [{ nodes: 20_000, lines: 3 }, 4],
  [{ nodes: 100_000, lines: 3 }, 24],
  [{ nodes: 400_000, lines: 3 }, 100],
  [{ nodes: 2_000_000, lines: 3 }, 500],
  [{ nodes: 10_000_000, lines: 3 }, 2500],
  [{ depth: 8, lines: 3 }, 60],
  [{ depth: 10, lines: 3 }, 600],
  [{ depth: 12, lines: 3 }, 1200],
  [{ depth: 14, lines: 3 }, 1800],
  [{ depth: 16, lines: 3 }, 1800],
  [{ milliseconds: 1000, lines: 3 }, 100],
  [{ milliseconds: 3000, lines: 3 }, 300],
  [{ milliseconds: 10_000, lines: 3 }, 1000],
];

/** Games of a player against one who moves at random, up to the mate: for each position, what its price came to. */
async function benchDecided(kind: GameKind, games: number): Promise<void> {
  const search = await loadSearch(ENGINE_FILES, kind, { table: 16 });
  const positions = decidedPositions(search, kind, games);
  const mates = positions.filter(({ mates: isMate }) => isMate).length;
  report(
    `${kind}: ${games} one-sided games`,
    `${positions.length} positions, ${mates} before a mate`,
  );
  for (const [settings, every] of PRESETS) {
    let dearest = 0;
    let where = '';
    let most = 0;
    let asked = 0;
    for (let index = 0; index < positions.length; index += every) {
      const { root, played, text } = positions[index]!;
      const ask: Ask = async (question) => search.search(question, UNSTOPPED);
      const { main, priced } = await evaluate(ask, kind, { root, played }, settings);
      asked++;
      const nodes = main.nodes + (priced?.nodes ?? 0);
      most = Math.max(most, nodes);
      // a depth is no number of nodes: there the main search is the budget
      const [spent, budget] =
        settings.milliseconds === undefined
          ? [nodes, settings.nodes ?? main.nodes]
          : [main.milliseconds + (priced?.milliseconds ?? 0), settings.milliseconds];
      const cost = spent / budget;
      if (cost > dearest) [dearest, where] = [cost, `${text} ${played}`];
    }
    report(
      `  ${settingsText(settings)}, ${asked} positions: dearest`,
      `${dearest.toFixed(2)} × the budget, at most ${(most / 1e6).toFixed(2)} M nodes (${where})`,
    );
  }
}

function decidedPositions(search: SearchModule, kind: GameKind, games: number) {
  const ruleset = rulesetOf(kind);
  const found = [];
  for (let game = 0; game < games; game++) {
    const draw = randomSource(game + 1);
    const along: Position[] = [ruleset.start()];
    for (let ply = 0; ply < 160; ply++) {
      const position = along.at(-1)!;
      const history = along.slice(0, -1);
      const root = ruleset.searchRoot(position, history);
      if (ruleset.status(position, history).state === 'over') break;
      const moves = ruleset.moves(position);
      const [line] =
        (ply + game) % 2 === 0
          ? search.search({ kind, root, budget: { nodes: 1500 }, lines: 1, fresh: true }, UNSTOPPED)
              .lines
          : [];
      const played = line?.moves[0] ?? ruleset.code(moves[Math.floor(draw() * moves.length)]!);
      found.push({
        root,
        played,
        text: ruleset.write(position),
        mates: line?.score.kind === 'mate',
      });
      along.push(ruleset.play(position, ruleset.parseCode(played)!));
    }
  }
  return found;
}
