import { randomUUID } from 'node:crypto';
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { FIRST_VERSION } from '@/core/game/record';
import { PositionError } from '@/core/game/ruleset';
import { toJson } from '@/core/game/serial';
import { emptyTree } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
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
  const { kind, position } = positionQuerySchema.parse(await searchParams);
  const ruleset = rulesetOf(kind);
  let start = ruleset.startText;
  try {
    if (position !== null) start = ruleset.write(ruleset.start(position));
  } catch (error) {
    if (!(error instanceof PositionError)) throw error;
    // there it is said what is wrong with it, and can be mended
    redirect(`/setup?${new URLSearchParams({ kind, position: position! })}`);
  }
  return (
    <>
      <Masthead>
        <h1 className="game-title m-0 fs-6 text-truncate fw-normal">{t('unkept')}</h1>
      </Masthead>
      <PositionDesk
        // each way here leads to a Desk of its own
        key={randomUUID()}
        setup={{ source: t('unkept'), givenBy: null, beside: null, sweep: settings().sweep }}
        stored={{ gameId: null, version: FIRST_VERSION, right: 'own' }}
        game={toJson({ tree: emptyTree(kind, start), tags: [], result: '*', end: null })}
        asked={{ node: 0 }}
        ownSide={null}
        initial={{ sweep: null, shown: null }}
      />
    </>
  );
}
