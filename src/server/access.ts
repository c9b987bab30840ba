import { and, eq, gt, inArray, isNull, or, sql, type SQL } from 'drizzle-orm';
import { allows, RIGHTS, type Right } from '@/contract/rights';
import { database, planned } from './database';
import { OWNER, type Owner } from './owner';
import { asks, bases, collectionGames, games, grants, owners, type JobPlan } from './schema';
import { accountOf } from './sessions';

/** Who sends a request: an account, where one is signed in, and whoever has been given links. */
export interface Asker {
  account: Owner | null;
  /** The secret parts of the links that they have opened. */
  links: readonly string[];
}

/** A game that somebody may do something with. */
export interface Admission {
  /** Whose it is: all that is asked about the game is bound to them. */
  owner: Owner;
  gameId: number;
  right: Right;
}

export const LINKS_COOKIE = 'bektra.links';
/** As many links as a browser remembers. */
export const MOST_LINKS = 20;
/** 24 random bytes in base64url. */
export const LINK = /^[A-Za-z0-9_-]{32}$/;

/** The links of a request's cookie, the last opened first. */
export function linksOf(headers: Headers): string[] {
  const cookies = (headers.get('cookie') ?? '').split(/;\s*/);
  const given = cookies.find((cookie) => cookie.startsWith(`${LINKS_COOKIE}=`));
  return (given?.slice(LINKS_COOKIE.length + 1).split('.') ?? [])
    .filter((link) => LINK.test(link))
    .slice(0, MOST_LINKS);
}

export const askerOf = async (headers: Headers): Promise<Asker> => ({
  account: await accountOf(headers),
  links: linksOf(headers),
});

/** The grants that somebody has, and that are not over. */
export const grantedTo = ({ account, links }: Asker): SQL =>
  and(
    or(
      account ? eq(grants.granteeId, account.id) : undefined,
      links.length > 0 ? inArray(grants.link, [...links]) : undefined,
      // of nothing to look for, nothing is found
      sql`false`,
    ),
    or(isNull(grants.expiresAt), gt(grants.expiresAt, sql`now()`)),
  )!;

/** Whether a row of grants reaches a row of games. */
const reachesGame: SQL = and(
  eq(grants.ownerId, games.ownerId),
  or(
    eq(grants.gameId, games.id),
    sql`exists (select from ${collectionGames}
      where ${collectionGames.collectionId} = ${grants.collectionId} and ${collectionGames.gameId} = ${games.id})`,
    // what somebody prepares is theirs alone unless they give that very sheet
    and(
      isNull(grants.gameId),
      isNull(grants.collectionId),
      isNull(grants.baseId),
      isNull(games.preparedFor),
    ),
  ),
)!;

/** What somebody may do with a game; null: nothing, or there is none. */
export async function admit(asker: Asker, gameId: number): Promise<Admission | null> {
  const [game] = await database()
    .select(OWNER)
    .from(games)
    .innerJoin(owners, eq(owners.id, games.ownerId))
    .where(and(eq(games.id, gameId), isNull(games.deletedAt)));
  if (!game) return null;
  if (game.id === asker.account?.id) return { owner: game, gameId, right: 'own' };
  const given = await database()
    .select({ right: grants.right })
    .from(grants)
    .innerJoin(games, eq(games.id, gameId))
    .where(and(grantedTo(asker), reachesGame));
  const rights = given.map(({ right }) => right);
  const right = RIGHTS.findLast((one) => rights.some((had) => had === one));
  return right === undefined ? null : { owner: game, gameId, right };
}

/** The same for the game that something asked is about. */
export const admitToAsk =
  (plan: JobPlan) =>
  async (asker: Asker, id: number): Promise<Admission | null> => {
    const [ask] = await database()
      .select({ gameId: asks.gameId })
      .from(asks)
      .where(and(eq(asks.id, id), eq(asks.plan, plan)));
    const gameId = ask?.gameId ?? null;
    return gameId === null ? null : admit(asker, gameId);
  };

/** What somebody may do with a base: whom it is given to may ask it, and no more. */
export async function admitToBase(
  asker: Asker,
  baseId: number,
): Promise<Omit<Admission, 'gameId'> | null> {
  const [owner] = await ownerOfBase().execute({ baseId });
  if (!owner) return null;
  if (owner.id === asker.account?.id) return { owner, right: 'own' };
  const [given] = await database()
    .select({ id: bases.id })
    .from(bases)
    .where(and(eq(bases.id, baseId), basesGivenTo(asker)));
  return given ? { owner, right: 'read' } : null;
}

/** Asked with every step on a Desk. */
const ownerOfBase = planned(() =>
  database()
    .select(OWNER)
    .from(bases)
    .innerJoin(owners, eq(owners.id, bases.ownerId))
    .where(eq(bases.id, sql.placeholder('baseId')))
    .prepare('owner of a base'),
);

/** Whether a row of bases is given to somebody. */
export const basesGivenTo = (asker: Asker): SQL<boolean> =>
  // written out: Drizzle names columns without their table where only one is selected from
  sql<boolean>`exists (select from grants where grants.base_id = bases.id and ${grantedTo(asker)})`;

/** Ids of those who have given somebody anything. */
export async function giversTo(asker: Asker): Promise<ReadonlySet<string>> {
  const rows = await database()
    .selectDistinct({ ownerId: grants.ownerId })
    .from(grants)
    .where(grantedTo(asker));
  return new Set(rows.map(({ ownerId }) => ownerId));
}

/** Whether somebody may hear of what happens to a game. */
export const mayRead = async (asker: Asker, gameId: number): Promise<boolean> =>
  allows((await admit(asker, gameId))?.right ?? null, 'read');
