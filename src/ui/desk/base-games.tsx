'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery } from '@tanstack/react-query';
import Form from 'react-bootstrap/Form';
import {
  BASE_ORDERS,
  findBaseGame,
  listBaseGames,
  type Base,
  type BaseGameRow,
} from '@/contract/bases';
import { writeWords } from '@/core/game/edits';
import { fromJson } from '@/core/game/serial';
import { applySteps } from '@/core/game/steps';
import { mainLine } from '@/core/game/tree';
import { reversed, reversedMove } from '@/core/game/reversed';
import type { Position, Ruleset } from '@/core/game/ruleset';
import { call } from '../call';
import { usePreferences } from '../preferences';
import { resultKey } from '../result-key';
import { rove } from '../roving';
import { insertFrom, type BoardPlace } from './board-place';
import { useDesk, useDeskStore, useMay } from './desk-store';
import { LineMoves, type Preview } from './line-moves';

const FRESH_MS = 60_000;
/** As many moves as a game is shown with from the position on. */
const SHOWN = 40;

interface Props {
  base: Base;
  place: BoardPlace;
  /** What is on the board, as text. */
  position: string;
  /** Only games that went on with it. */
  move: string | null;
  onPreview(preview: Preview | null): void;
}

/** The games of a base that met the position on the board. */
export function BaseGames({ base, place, position, move, onPreview }: Props) {
  const t = useTranslations('base');
  const [isOpen, setOpen] = useState(false);
  const [order, setOrder] = useState<(typeof BASE_ORDERS)[number]>('rating');
  const [looked, setLooked] = useState<number | null>(null);
  const filter = usePreferences((state) => state.baseFilter);
  const asked = { ...filter, position, order, ...(move !== null && { move }) };
  const { data: games } = useQuery({
    queryKey: ['bases', 'games', base.id, base.indexed, asked],
    queryFn: () => call(listBaseGames, { id: base.id, query: asked }),
    enabled: isOpen || move !== null,
    staleTime: FRESH_MS,
  });
  return (
    <details
      className="base-games small"
      open={isOpen || move !== null}
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
    >
      <summary className="soft">{t('games.title', { base: base.name })}</summary>
      <Form.Select
        size="sm"
        className="w-auto"
        aria-label={t('games.order')}
        value={order}
        onChange={({ target }) => setOrder(target.value as typeof order)}
      >
        {BASE_ORDERS.map((name) => (
          <option key={name} value={name}>
            {t(`games.orders.${name}`)}
          </option>
        ))}
      </Form.Select>
      <ul className="list-unstyled m-0">
        {games?.map((game) => (
          <li key={game.number}>
            <GameLine
              game={game}
              kind={base.kind}
              isOpen={looked === game.number}
              onToggle={() => setLooked(looked === game.number ? null : game.number)}
            />
            {looked === game.number && (
              <GameMoves base={base} game={game} place={place} onPreview={onPreview} />
            )}
          </li>
        ))}
      </ul>
      {games?.length === 0 && (
        <p className="soft m-0">{t(order === 'opponents' ? 'games.noneMet' : 'games.none')}</p>
      )}
    </details>
  );
}

const nameOf = (name: string | null, rating: number | null): string =>
  rating === null ? (name ?? '?') : `${name ?? '?'} ${rating}`;

function GameLine({
  game: { players, ratings, result, date, event },
  kind,
  isOpen,
  onToggle,
}: {
  game: BaseGameRow;
  kind: Base['kind'];
  isOpen: boolean;
  onToggle(): void;
}) {
  const results = useTranslations('results');
  return (
    <button type="button" className="game-line" aria-expanded={isOpen} onClick={onToggle}>
      {nameOf(players[0], ratings[0])} – {nameOf(players[1], ratings[1])}{' '}
      <strong>{results(resultKey({ kind, handicap: null }, result))}</strong>{' '}
      <span className="soft">{[date?.slice(0, 4), event].filter(Boolean).join(' · ')}</span>
    </button>
  );
}

/** How a game went on from the position on the board; up to any of its moves it can be put into the sheet, with where it is from. */
function GameMoves({
  base,
  game,
  place,
  onPreview,
}: Pick<Props, 'base' | 'place' | 'onPreview'> & { game: BaseGameRow }) {
  const t = useTranslations('base');
  const store = useDeskStore();
  const mayEdit = useMay('edit');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const { data: codes } = useQuery({
    queryKey: ['bases', 'game', base.id, game.number],
    queryFn: () => call(findBaseGame, { id: base.id, query: { number: game.number } }),
    staleTime: Infinity,
    select: (json) => {
      const { tree } = fromJson(json, { legality: 'trusted' });
      const moves = mainLine(tree).map((node) => ruleset.code(node.move));
      return { start: tree.start, moves };
    },
  });
  if (!codes) return <p className="soft m-0">…</p>;
  const { moves: onward, isReversed } = movesFrom(ruleset, codes, place.position);
  const insert = (length: number): void => {
    const { view, edit } = store.getState();
    const line = insertFrom(view.record, place, onward.slice(0, length));
    const { tree } = applySteps(view.record, line.steps);
    const source = [
      game.players.map((name, side) => nameOf(name, game.ratings[side as 0 | 1])).join(' – '),
      [game.event, game.date?.slice(0, 4)].filter(Boolean).join(' '),
      base.name,
      isReversed && t('games.reversed'),
    ];
    const words = tree.nodes.get(line.node)?.comment;
    const named = writeWords(
      tree,
      line.node,
      'comment',
      [words, source.filter(Boolean).join(', ')].filter(Boolean).join('\n'),
    );
    edit({ steps: [...line.steps, ...named.steps], node: line.node });
    onPreview(null);
  };
  return (
    <div className="game-moves" onKeyDown={rove}>
      <LineMoves
        place={place}
        codes={onward}
        most={SHOWN}
        {...(mayEdit && { onPick: insert })}
        onPreview={onPreview}
      />
      {onward.length > SHOWN && '…'}
      {onward.length === 0 && <span className="soft">{t('ended')}</span>}
      <div>
        <a
          href={
            game.gameId === null
              ? `/desk?base=${base.id}&number=${game.number}`
              : `/games/${game.gameId}`
          }
          target="_blank"
          rel="noreferrer"
        >
          {t('games.open')}
        </a>{' '}
        {isReversed && <span className="soft">{t('games.reversed')} · </span>}
        {mayEdit && <span className="soft">{t('games.insertHint')}</span>}
      </div>
    </div>
  );
}

/** The moves of a game behind the first place where it met a position; as it is, or else with colours reversed. */
function movesFrom(
  ruleset: Ruleset,
  { start, moves }: { start: string; moves: readonly string[] },
  position: Position,
): { moves: readonly string[]; isReversed: boolean } {
  const played = moves.map((code) => ruleset.parseCode(code)!);
  const keys = ruleset.keysAlong(ruleset.start(start), played);
  const ply = keys.indexOf(ruleset.key(position));
  if (ply >= 0) return { moves: moves.slice(ply), isReversed: false };
  const other = keys.indexOf(ruleset.key(reversed(ruleset, position)));
  const turned = other < 0 ? [] : played.slice(other);
  return {
    moves: turned.map((move) => ruleset.code(reversedMove(ruleset, move))),
    isReversed: other >= 0,
  };
}
