import * as z from 'zod';
import { accountName } from './account';
import { contract } from './contract';
import { GRANTED } from './rights';
import { id } from './shapes';

const day = z.iso.date();

/** What is given: a game, a collection, a base, or all one's games, those to come included. */
const scope = z.discriminatedUnion('of', [
  z.object({ of: z.literal('game'), id }),
  z.object({ of: z.literal('collection'), id }),
  z.object({ of: z.literal('base'), id }),
  z.object({ of: z.literal('all') }),
]);
export type GrantScope = z.infer<typeof scope>;

export const grantSchema = z.object({
  id,
  scope,
  /** What is given, in words: players, or the name of a collection; null: all games. */
  title: z.string().nullable(),
  /** Of whom it is. */
  owner: z.string(),
  /** To whom; null: to whoever has the link. */
  grantee: z.string().nullable(),
  /** Its secret part, told to the owner alone. */
  link: z.string().nullable(),
  right: z.enum(GRANTED),
  /** The last day on which it counts, in UTC; null: until it is withdrawn. */
  until: day.nullable(),
});
export type Grant = z.infer<typeof grantSchema>;

/** What one has given to others; of a game alone, where one is named. */
export const listGrants = contract('GET', '/api/grants', {
  query: z.object({ game: z.coerce.number().pipe(id).optional() }),
  answer: z.array(grantSchema),
});

/** Refused with 404 `missing` where that is not one's own, 422 `nobody` or `self`, 429 `tooMany`. */
export const makeGrant = contract('POST', '/api/grants', {
  body: z
    .object({
      scope,
      /** The exact name of an account; null: a link. */
      to: accountName.nullable(),
      right: z.enum(GRANTED),
      until: day.nullable(),
    })
    // whoever has a link may look, and no more
    .refine(({ to, right }) => to !== null || right === 'read')
    // a base is asked, and given to people alone
    .refine(({ scope: { of }, to, right }) => of !== 'base' || (to !== null && right === 'read')),
  answer: grantSchema,
  status: 201,
});

/** By who gave it, or by whom it was given to. */
export const withdrawGrant = contract('DELETE', '/api/grants/[id]');
