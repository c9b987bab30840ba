import type { Metadata } from 'next';
import { getTranslations } from 'next-intl/server';
import * as z from 'zod';
import { gameInfo } from '@/core/game/info';
import { toJson } from '@/core/game/serial';
import { mainLine, nodesInOrder, type GameTree, type NodeId } from '@/core/game/tree';
import { NO_FINDINGS, type Findings } from '@/core/review/review';
import { remarksFrom, USUAL_REMARKS } from '@/core/review/remarks';
import { sayRemark } from '@/ui/say-remark';
import { findingsOf, presentFindings, withFindings } from '@/server/findings';
import { ownSideOf } from '@/server/own-side';
import { PrintedPage } from '@/ui/share/printed-page';
import { visitStoredGame } from '../../../visit';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const querySchema = z.object({
  findings: z.enum(['0', '1']).catch('1'),
  flipped: z.enum(['0', '1']).optional().catch(undefined),
  diagrams: z
    .string()
    .regex(/^(\d+(\.\d+)*)?$/)
    .optional()
    .catch(undefined),
});

/** As many diagrams as a page has by itself. */
const MOST_BY_ITSELF = 6;

/** Where a reader wants a diagram: what was marked or kept as a lesson, and the positions before turning points. */
function usualDiagrams(tree: GameTree, findings: Findings): NodeId[] {
  const line = mainLine(tree);
  const marked = [...nodesInOrder(tree)].filter(({ marks, lesson }) => marks ?? lesson);
  const turned = findings.moves.flatMap((found, index) =>
    found?.isTurningPoint && line[index - 1] ? [line[index - 1]!] : [],
  );
  return [...new Set([...marked, ...turned].map(({ id }) => id))].slice(0, MOST_BY_ITSELF);
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('print'))('title') };
}

export default async function PrintPage({ params, searchParams }: Props) {
  const query = querySchema.parse(await searchParams);
  const { owner, game } = await visitStoredGame((await params).id);
  const t = await getTranslations('export');
  const found = await findingsOf(owner, game);
  const findings = found ? presentFindings(game, found) : NO_FINDINGS;
  const remarks = remarksFrom(await searchParams) ?? USUAL_REMARKS;
  const wanted = query.findings === '1';
  const record = wanted
    ? await withFindings(owner, game, sayRemark(t, remarks), remarks)
    : game.record;
  const info = gameInfo(game.record);
  const ownIsSecond = ownSideOf(owner, game.sides) === 1;
  return (
    <main id="main" className="print-page">
      <PrintedPage
        gameId={game.id}
        game={toJson(record)}
        info={info}
        findings={wanted}
        canFind={found !== null}
        diagrams={
          query.diagrams === undefined
            ? usualDiagrams(game.record.tree, findings)
            : query.diagrams.split('.').filter(Boolean).map(Number)
        }
        flipped={query.flipped === undefined ? ownIsSecond : query.flipped === '1'}
      />
    </main>
  );
}
