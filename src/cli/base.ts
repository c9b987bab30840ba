import { createInterface } from 'node:readline';
import type { BaseAnswer } from '@/contract/bases';
import type { GameKind } from '@/core/game/ruleset';
import { shareOf } from '@/core/game/score-share';
import { formatOfName } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { kindOfPosition } from '@/core/rulesets';
import { findAccount } from '@/server/accounts';
import { askBase } from '@/server/base-answers';
import { lockBase, storeBaseGames } from '@/server/base-games';
import { indexBase } from '@/server/base-index';
import { listBases, makeBase, ownBases } from '@/server/bases';
import { database, migrateDatabase } from '@/server/database';
import { demoOwner, type Owner } from '@/server/owner';
import { prepareBaseGame, type PreparedBaseGame } from '@/server/prepared-base-game';
import { CommandError, EXIT, usageError } from './exit';
import { sayProblem } from './messages';
import { complain, print } from './print';
import { withDatabase } from './serve/serve';
import { gamesOf } from './source';

const USAGE = 'Say what: ./bektra base build NAME FILE… or base ask NAME POSITION|-';
/** Games that are stored at a time. */
const PART = 500;

/** `base build|ask`: fills a base of an account's from files, or asks one what was played at a position. */
export async function base(
  [action, name, ...rest]: readonly string[],
  { account, json }: { account: string | undefined; json: boolean },
): Promise<number> {
  if ((action !== 'build' && action !== 'ask') || name === undefined || rest.length === 0)
    throw usageError(USAGE);
  return withDatabase(async () => {
    await migrateDatabase();
    const owner = await ownerNamed(account);
    return action === 'build' ? build(owner, name, rest) : ask(owner, name, rest, json);
  });
}

async function ownerNamed(name: string | undefined): Promise<Owner> {
  if (name === undefined) return demoOwner();
  const owner = await findAccount(name);
  if (!owner) throw new CommandError(`There is no account of the name ${name}.`, EXIT.problems);
  return owner;
}

/** Takes games into the base, which is made where there is none; those of another game than its first are left out. */
async function build(owner: Owner, name: string, files: readonly string[]): Promise<number> {
  let found = (await ownBases(owner)).find((one) => one.name === name);
  if (found && found.source !== 'files')
    throw new CommandError(`${name} follows the library; it takes no files.`, EXIT.problems);
  let [read, kept, left] = [0, 0, 0];
  let part: PreparedBaseGame[] = [];
  const store = async (): Promise<void> => {
    if (part.length === 0) return;
    const { kind } = part[0]!;
    found ??= await newBase(owner, name, kind);
    const { id } = found;
    kept += await database().transaction(async (tx) => {
      const held = await lockBase(tx, id);
      return held ? storeBaseGames(tx, held, part) : 0;
    });
    part = [];
    complain(`${read} games read, ${kept} in the base`);
  };
  for (const file of files) {
    for await (const reading of gamesOf(file, formatOfName(file) ?? undefined)) {
      read++;
      if (!isRead(reading)) {
        left++;
        complain(`${file}: game ${read}: ${await sayProblem(reading.problem)}`);
        continue;
      }
      const prepared = prepareBaseGame(reading.record);
      const kind: GameKind = found?.kind ?? part[0]?.kind ?? prepared.kind;
      if (prepared.kind === kind) part.push(prepared);
      else left++;
      if (part.length >= PART) await store();
    }
  }
  await store();
  if (found) await indexBase(found.id, () => Promise.resolve(true));
  print(`${name}: ${kept} games new, ${read - kept - left} there already, ${left} left out`);
  return left === 0 ? EXIT.done : EXIT.problems;
}

async function newBase(owner: Owner, name: string, kind: GameKind) {
  const made = await makeBase(owner, { name, kind, source: { from: 'files' } });
  if (typeof made === 'string')
    throw new CommandError(`The base could not be made: ${made}.`, EXIT.problems);
  return made;
}

async function ask(
  owner: Owner,
  name: string,
  [position]: readonly string[],
  json: boolean,
): Promise<number> {
  const found = (await listBases(owner)).find((one) => one.name === name);
  if (!found) throw new CommandError(`There is no base of the name ${name}.`, EXIT.problems);
  let clean = true;
  const one = async (text: string): Promise<void> => {
    const answer =
      kindOfPosition(text) === found.kind ? await askBase(owner, found.id, text, {}) : 'unfit';
    if (typeof answer !== 'string') return tell(answer, json);
    clean = false;
    complain(`${text}: this is no position of ${found.kind}`);
    if (json) print(JSON.stringify({ error: 'this is no position of its game' }));
  };
  if (position !== '-') await one(position!);
  else
    for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
      if (line.trim() !== '') await one(line.trim());
  return clean ? EXIT.done : EXIT.problems;
}

function tell({ games, moves }: BaseAnswer, json: boolean): void {
  const rows = moves.flatMap(({ move, games: count, score, rating, years }) =>
    move === null
      ? []
      : [
          {
            move,
            games: count,
            wins: score.won,
            draws: score.drawn,
            losses: score.lost,
            score: rounded(shareOf(score)),
            rating: rounded(rating),
            first: years?.[0] ?? null,
            last: years?.[1] ?? null,
          },
        ],
  );
  if (json) return print(JSON.stringify({ games, moves: rows }));
  print(`${games} games`);
  for (const { move, games: count, score, rating, first, last } of rows)
    print([move, count, score ?? '–', rating ?? '–', first ?? '–', last ?? '–'].join('\t'));
}

/** To a tenth. */
const rounded = (value: number | null): number | null =>
  value === null ? null : Math.round(10 * value) / 10;
