import { headers } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import { cache } from 'react';
import { admit, askerOf, type Admission } from '@/server/access';
import { findGame, type StoredGame } from '@/server/games';
import { parseId } from '@/server/ids';
import { ADDRESS_HEADER } from '@/server/origin';
import type { Owner } from '@/server/owner';

/** Who looks at the page. */
export const visitor = cache(async () => askerOf(await headers()));

/** The way to sign in, and back here. */
async function toSignIn(): Promise<never> {
  const here = (await headers()).get(ADDRESS_HEADER) ?? '/';
  redirect(here === '/' ? '/sign-in' : `/sign-in?${new URLSearchParams({ to: here })}`);
}

/** The account that looks at the page; who is not signed in is led there first. */
export async function signedIn(): Promise<Owner> {
  const { account } = await visitor();
  return account ?? toSignIn();
}

const admitted = cache(async (id: number) => admit(await visitor(), id));

/** What the visitor may do with a game; null: nothing. */
async function admissionTo(idText: string): Promise<Admission | null> {
  const id = parseId(idText);
  return id === null ? null : admitted(id);
}

/** The same; who may not even look finds nothing. */
export async function visitGame(idText: string): Promise<Admission> {
  const admission = await admissionTo(idText);
  if (admission) return admission;
  const { account } = await visitor();
  return account ? notFound() : toSignIn();
}

const found = cache((owner: Owner, id: number) => findGame(owner, id));

export interface VisitedGame extends Admission {
  game: StoredGame;
}

/** A game for what is said of a page beside it, which can't lead elsewhere: null where the visitor may not look at it. */
export async function glimpseGame(idText: string): Promise<StoredGame | null> {
  const admission = await admissionTo(idText);
  return admission && found(admission.owner, admission.gameId);
}

/** A game that the visitor may look at. */
export async function visitStoredGame(idText: string): Promise<VisitedGame> {
  const admission = await visitGame(idText);
  const game = await found(admission.owner, admission.gameId);
  return game ? { ...admission, game } : notFound();
}
