import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { getTranslations } from 'next-intl/server';
import { gameInfo } from '@/core/game/info';
import { pathTo, positionsAlong } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { QuestionPage } from '@/ui/share/question-page';
import { parseId } from '@/server/ids';
import { visitStoredGame } from '../../../visit';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ node?: string }>;
}

export async function generateMetadata(): Promise<Metadata> {
  return { title: (await getTranslations('question'))('title') };
}

/** One position and nothing of what follows, not even in the page's data. */
export default async function Question({ params, searchParams }: Props) {
  const node = parseId((await searchParams).node ?? '0');
  const { game } = await visitStoredGame((await params).id);
  if (node === null || !game.record.tree.nodes.has(node)) notFound();
  const { tree } = game.record;
  const ruleset = rulesetOf(tree.kind);
  const path = pathTo(tree, node);
  const position = positionsAlong(ruleset, tree.start, path).at(-1)!;
  const { players, event, date } = gameInfo(game.record);
  const last = path.at(-1)!;
  return (
    <main id="main" className="print-page">
      <QuestionPage
        gameId={game.id}
        node={node}
        kind={ruleset.kind}
        position={ruleset.write(position)}
        lastMove={last ? ruleset.code(last.move) : null}
        source={[`${players[0].name ?? '?'} – ${players[1].name ?? '?'}`, event, date]
          .filter(Boolean)
          .join(', ')}
      />
    </main>
  );
}
