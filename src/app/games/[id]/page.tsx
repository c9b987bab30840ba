import type { Metadata } from 'next';
import { after } from 'next/server';
import { getTranslations } from 'next-intl/server';
import { libraryHref } from '@/contract/library';
import { gameInfo } from '@/core/game/info';
import type { GameRecord } from '@/core/game/record';
import { toJson } from '@/core/game/serial';
import { readOpening } from '@/core/openings/opening';
import { mainLine, ROOT, type NodeId } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { ownSideOf } from '@/server/own-side';
import { settings } from '@/server/settings';
import { reviewOf } from '@/server/findings';
import { noteOpened } from '@/server/library';
import { neighboursOf } from '@/server/neighbours';
import type { Owner } from '@/server/owner';
import type { StoredGame } from '@/server/games';
import type { DeskSetup } from '@/ui/desk/desk-setup';
import { Desk } from '@/ui/desk/desk';
import { resultKey } from '@/ui/result-key';
import { Masthead } from '@/ui/shell/masthead';
import { glimpseGame, visitStoredGame } from '../../visit';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ node?: string; ply?: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const game = await glimpseGame((await params).id);
  if (!game) return {};
  const { date } = gameInfo(game.record);
  return { title: [await nameOf(game), date].filter(Boolean).join(', ') };
}

/** What a game is called: by its players; a sheet of preparation by its name. */
async function nameOf({ record, preparedFor }: StoredGame): Promise<string> {
  const { players, event } = gameInfo(record);
  if (preparedFor === null) return players.map(({ name }) => name ?? '?').join(' – ');
  return event ?? (await getTranslations('preparation'))('unnamed');
}

/** What else is to be said of it at the head of the page. */
async function factsOf({ record, preparedFor }: StoredGame): Promise<(string | null)[]> {
  const info = gameInfo(record);
  if (preparedFor !== null) {
    const { kind, sides } = rulesetOf(record.tree.kind);
    const side = (await getTranslations('sides'))(`${kind}.${sides[preparedFor]}`);
    return [(await getTranslations('preparation'))('for', { side })];
  }
  const results = await getTranslations('results');
  return [info.event, info.timeControlText, results(resultKey(info, info.result))];
}

/** Where to go on from one's own game. */
async function besideOf(owner: Owner, id: number): Promise<DeskSetup['beside']> {
  const { meetings, opening, ...event } = await neighboursOf(owner, id);
  const [player, against] = meetings?.players ?? [];
  return {
    ...event,
    meetings:
      meetings && meetings.games > 0
        ? { href: libraryHref({ player, against }), games: meetings.games }
        : null,
    opening: opening && {
      ...opening,
      href: libraryHref({ opening: readOpening(opening.text).name }),
    },
  };
}

/** The node that a link leads to: by itself, or by its half move in the main line. */
function askedNode({ tree }: GameRecord, { node, ply }: { node?: string; ply?: string }): NodeId {
  return Number(node) || (mainLine(tree)[Number(ply) - 1]?.id ?? ROOT);
}

export default async function DeskPage({ params, searchParams }: Props) {
  const { owner, game, right } = await visitStoredGame((await params).id);
  if (right === 'own') after(() => noteOpened(owner, game.id));
  const facts = await factsOf(game);
  return (
    <>
      <Masthead>
        <h1
          className="game-title m-0 fs-6 text-truncate"
          style={{ fontFamily: 'inherit', fontWeight: 400 }}
        >
          <strong>{await nameOf(game)}</strong>
          {facts.filter(Boolean).map((part) => ` · ${part}`)}
        </h1>
      </Masthead>
      <Desk
        setup={{
          source: game.source,
          beside: right === 'own' ? await besideOf(owner, game.id) : null,
          givenBy: right === 'own' ? null : owner.name,
          sweep: settings().sweep,
        }}
        stored={{ gameId: game.id, version: game.version, right }}
        game={toJson(game.record)}
        asked={{ node: askedNode(game.record, await searchParams) }}
        ownSide={game.preparedFor ?? ownSideOf(owner, game.sides)}
        initial={await reviewOf(owner, game)}
      />
    </>
  );
}
