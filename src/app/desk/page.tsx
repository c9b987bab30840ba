import { randomUUID } from 'node:crypto';
import type { Metadata } from 'next';
import { notFound, redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { gameInfo } from '@/core/game/info';
import { FIRST_VERSION, type GameRecord } from '@/core/game/record';
import { PositionError } from '@/core/game/ruleset';
import { toJson } from '@/core/game/serial';
import { emptyTree } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { findBaseGame } from '@/server/base-answers';
import { settings } from '@/server/settings';
import { PositionDesk } from '@/ui/desk/position-desk';
import { Masthead } from '@/ui/shell/masthead';
import { positionQuerySchema } from '../position-query';
import { signedIn } from '../visit';

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('position'))('unkept') };
}

/** A position on a Desk, which is stored when something is entered. */
export default async function PositionDeskPage({ searchParams }: Props) {
  await signedIn();
  const t = await getTranslations('position');
  const query = await searchParams;
  const fromBase = baseGameQuerySchema.safeParse(query);
  if (fromBase.success) return <BaseGameDesk {...fromBase.data} />;
  const { kind, position } = positionQuerySchema.parse(query);
  const ruleset = rulesetOf(kind);
  let start = ruleset.startText;
  try {
    if (position !== null) start = ruleset.write(ruleset.start(position));
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    // there it is said what is wrong with it, and can be mended
    redirect(`/setup?${new URLSearchParams({ kind, position: position! })}`);
  }
  const record = { tree: emptyTree(kind, start), tags: [], result: '*', end: null } as const;
  return <UnkeptDesk title={t('unkept')} record={record} />;
}

const id = z.coerce.number().int().nonnegative().max(Number.MAX_SAFE_INTEGER);
const baseGameQuerySchema = z.object({ base: id, number: id });

/** A game of a base, which becomes one of the library when something is entered. */
async function BaseGameDesk({ base, number }: z.infer<typeof baseGameQuerySchema>) {
  const record = await findBaseGame(await signedIn(), base, number);
  if (!record) notFound();
  const [first, second] = gameInfo(record).players;
  return <UnkeptDesk title={`${first.name ?? '?'} – ${second.name ?? '?'}`} record={record} />;
}

async function UnkeptDesk({ title, record }: { title: string; record: GameRecord }) {
  const t = await getTranslations('position');
  return (
    <>
      <Masthead>
        <h1 className="game-title m-0 fs-6 text-truncate fw-normal">{title}</h1>
      </Masthead>
      <PositionDesk
        // each way here leads to a Desk of its own
        key={randomUUID()}
        setup={{ source: t('unkept'), givenBy: null, beside: null, sweep: settings().sweep }}
        stored={{ gameId: null, version: FIRST_VERSION, right: 'own' }}
        game={toJson(record)}
        asked={{ node: 0 }}
        ownSide={null}
        initial={{ sweep: null, shown: null }}
      />
    </>
  );
}
