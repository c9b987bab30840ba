'use client';

import { wordOfSide } from '@/contract/shapes';
import { useState } from 'react';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import {
  findPrepared,
  listPartings,
  preparationHref,
  prepareLines,
  type GameParting,
  type PreparedHere,
} from '@/contract/preparation';
import { type Side, SIDES } from '@/core/game/ruleset';
import { lineTree } from '@/core/game/tree';
import { gameHref } from '../desk-href';
import { useAccount } from '../account/account';
import { call, Refused } from '../call';
import { linesJson } from '../lines-json';
import { numberText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { refreshQueries } from '../refresh-queries';
import { rove } from '../roving';
import { useSideName } from '../side-name';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useReview } from './desk-review';
import { useDesk, useDeskStore, useMay } from './desk-store';

const FRESH_MS = 60_000;

/** What the reader has prepared for the position on the board, where the game left it, and how lines come into it. */
export function PreparationCard() {
  const t = useTranslations('prepared');
  const place = useCardPlace();
  const account = useAccount();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const { kind } = ruleset;
  const sideName = useSideName(ruleset);
  const notation = useShogiNotation();
  const version = useDesk((state) => state.version);
  const position = ruleset.write(place.position);
  const { data: here } = useQuery({
    // what is saved here may be a sheet
    queryKey: ['preparation', 'position', kind, position, version],
    queryFn: () => call(findPrepared, { query: { kind, position } }),
    enabled: account !== null,
    staleTime: FRESH_MS,
  });
  const partings = usePartings(account !== null);
  const { ownSide } = useReview();
  const said = here?.map(({ side, moves }) =>
    [
      t(labelOf(side, moves, ruleset.side(place.position)), { side: sideName(side) }),
      moves
        .map((code) => readLine(ruleset, place.position, [code], null, notation)[0]?.text ?? code)
        .join(', '),
    ].join(' '),
  );
  return (
    <DeskCard
      name="preparation"
      title={t('title')}
      headline={said && said.length > 0 ? said.join(' · ') : t('headlineNone')}
      tools={
        <Link href={preparationHref({ kind, side: wordOfSide(ownSide ?? 0) })} className="small">
          {t('all')}
        </Link>
      }
    >
      {!account && <p className="soft m-0">{t('notYours')}</p>}
      {here?.map((one) => (
        <Prepared key={one.side} prepared={one} />
      ))}
      {here?.length === 0 && <p className="soft m-0">{t('nowhere')}</p>}
      {partings.map((parting) => (
        <PartingLine key={parting.side} parting={parting} />
      ))}
      {account && <PutLines />}
    </DeskCard>
  );
}

/** What the moves that are prepared for a side are where another, or the same, is to move. */
const labelOf = (side: Side, moves: readonly string[], toMove: Side) =>
  moves.length === 0 ? 'ends' : side === toMove ? 'play' : 'reckon';

const NONE: readonly GameParting[] = [];

/** Where the game on the Desk left the reader's preparations, as it is saved. */
function usePartings(mayAsk: boolean): readonly GameParting[] {
  const gameId = useDesk((state) => state.gameId);
  const version = useDesk((state) => state.version);
  const mayRead = useMay('read');
  const { data } = useQuery({
    queryKey: ['preparation', 'partings', gameId, version],
    queryFn: () => call(listPartings, { id: gameId! }),
    enabled: gameId !== null && mayRead && mayAsk,
    staleTime: FRESH_MS,
    placeholderData: (before) => before,
  });
  return data ?? NONE;
}

/** What is prepared for one side at the position on the board; a click plays it. */
function Prepared({ prepared: { side, moves, at } }: { prepared: PreparedHere }) {
  const t = useTranslations('prepared');
  const place = useCardPlace();
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  const notation = useShogiNotation();
  return (
    <div className="d-flex flex-wrap gap-2 align-items-baseline" onKeyDown={rove}>
      <span className="soft">
        {t(labelOf(side, moves, ruleset.side(place.position)), { side: sideName(side) })}
      </span>
      {moves.map((code, index) => (
        <button
          key={code}
          type="button"
          className="inline-move"
          tabIndex={index === 0 ? undefined : -1}
          onClick={() =>
            store.getState().follow(place.node, [...place.way, code], place.way.length + 1)
          }
        >
          {readLine(ruleset, place.position, [code], null, notation)[0]?.text ?? code}
        </button>
      ))}
      <Link href={gameHref(at.sheet, at.node)} className="small">
        {t('openSheet')}
      </Link>
    </div>
  );
}

function PartingLine({ parting: { side, ply, by, prepared } }: { parting: GameParting }) {
  const t = useTranslations('prepared');
  const view = useDesk((state) => state.view);
  const store = useDeskStore();
  const notation = useShogiNotation();
  const { ruleset } = view;
  const sideName = useSideName(ruleset);
  const named = sideName(side);
  if (ply === null || by === null) return <p className="m-0">{t('left.held', { side: named })}</p>;
  // the sheet may have been changed since
  if (ply > view.line.length) return null;
  const before = view.positionOf(view.nodeAtPly(ply - 1));
  const text = (code: string): string =>
    readLine(ruleset, before, [code], null, notation)[0]?.text ?? code;
  const move = `${numberText(ruleset, before)} ${text(ruleset.code(view.line[ply - 1]!.move))}`;
  return (
    <button
      type="button"
      className="move-link d-block text-start"
      onClick={() => store.getState().goToPly(ply - 1)}
    >
      {t(`left.${by}`, { side: named, move, prepared: prepared.map(text).join(', ') })}
    </button>
  );
}

/** Puts the moves to here, or the whole sheet, into a preparation. */
function PutLines() {
  const t = useTranslations('prepared');
  const problems = useTranslations('preparation.problems');
  const client = useQueryClient();
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  const [isWhole, setWhole] = useState(false);
  const [done, setDone] = useState<{ text: string; sheet: number | null } | null>(null);
  const put = async (side: Side): Promise<void> => {
    const { view, place } = store.getState();
    const { tree } = view.record;
    const { name } = place();
    const codes = name === '' ? [] : name.split(' ');
    const moves = codes.map((code) => ruleset.parseCode(code)!);
    const lines = isWhole ? tree : lineTree(tree.kind, tree.start, moves);
    setDone(null);
    try {
      const { id, added } = await call(prepareLines, {
        query: { kind: tree.kind, side: wordOfSide(side) },
        body: { lines: linesJson(lines) },
      });
      setDone({ text: t('done', { moves: added }), sheet: id });
      void refreshQueries(client, ['preparation']);
    } catch (error) {
      const code = error instanceof Refused ? error.code : '';
      const known = (['unfit', 'full', 'tooMany', 'limit'] as const).find((one) => one === code);
      setDone({ text: problems(known ?? 'failed'), sheet: null });
    }
  };
  return (
    <div className="mt-1" role="group" aria-label={t('put')}>
      <span className="soft small d-block">{t('put')}</span>
      <div className="d-flex flex-wrap gap-1 align-items-center">
        {SIDES.map((side) => (
          <Button key={side} variant="plain" size="sm" onClick={() => void put(side)}>
            {sideName(side)}
          </Button>
        ))}
        <label className="small d-flex gap-1 ms-2">
          <input
            type="checkbox"
            checked={isWhole}
            onChange={({ target }) => setWhole(target.checked)}
          />
          {t('putAll')}
        </label>
      </div>
      <p role="status" className="m-0 small">
        {done?.text}{' '}
        {done !== null && done.sheet !== null && (
          <Link href={`/games/${done.sheet}`}>{t('openSheet')}</Link>
        )}
      </p>
    </div>
  );
}
