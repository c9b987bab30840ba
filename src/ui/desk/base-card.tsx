'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import {
  askBase,
  askOnward,
  listBases,
  type Base,
  type BaseAnswer,
  type Onward,
} from '@/contract/bases';
import { shareOf } from '@/core/game/score-share';
import { useAccount } from '../account/account';
import { call } from '../call';
import { numberText, readLine } from '../move-text';
import { usePreferences, useShogiNotation } from '../preferences';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { useSideName } from '../side-name';
import { BaseFilterForm, isFiltered } from './base-filter';
import { BaseGames } from './base-games';
import { BaseMoves, type Asked } from './base-moves';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useDesk, useDeskStore } from './desk-store';
import { useLinePreview } from './line-moves';
import { useDepartures } from './use-departures';

/** As many bases as stand side by side. */
const MOST_ASKED = 3;
const FRESH_MS = 60_000;

/** What was played here before: by the games of one base or of several side by side. */
export function BaseCard() {
  const t = useTranslations('base');
  const client = useQueryClient();
  const place = useCardPlace();
  // they are the reader's own, whoever's the game is
  const mayAsk = useAccount() !== null;
  const ruleset = useDesk(({ view }) => view.ruleset);
  const { asked: wanted, bases, toggle } = useAskedBases(ruleset.kind, mayAsk);
  const filter = usePreferences((state) => state.baseFilter);
  const compared = usePreferences((state) => state.comparedFilter);
  const position = ruleset.write(place.position);
  const [move, setMove] = useState<string | null>(null);
  const { card, onPreview, preview } = useLinePreview<HTMLDivElement>();
  useServerEvents(
    (event) => {
      if (event.type === 'base') void refreshQueries(client, ['bases']);
    },
    () => void refreshQueries(client, ['bases']),
  );
  const questions = [
    ...wanted.map((base) => ({ base, of: filter, isCompared: false })),
    ...(compared && wanted[0] ? [{ base: wanted[0], of: compared, isCompared: true }] : []),
  ];
  const answers = useQueries({
    queries: questions.map(({ base, of }) => ({
      queryKey: ['bases', 'moves', base.id, base.indexed, position, of],
      queryFn: () => call(askBase, { id: base.id, query: { ...of, position } }),
      staleTime: FRESH_MS,
    })),
  });
  const asked: Asked[] = questions.map(({ base, of, isCompared }, index) => ({
    base,
    name: isCompared ? t('compared', { base: base.name }) : base.name,
    isCompared,
    isFiltered: isFiltered(of),
    answer: answers[index]?.data ?? null,
  }));
  const [first] = asked;
  const { data: onward } = useQuery({
    queryKey: ['bases', 'onward', first?.base.id, first?.base.indexed, position, filter],
    queryFn: () => call(askOnward, { id: first!.base.id, query: { ...filter, position } }),
    enabled: (first?.answer?.moves.length ?? 0) > 0,
    staleTime: FRESH_MS,
  });
  const isShown = first?.answer?.moves.some((one) => one.move === move) ?? false;
  return (
    <DeskCard
      name="base"
      title={t('title')}
      className="base-card"
      bodyRef={card}
      spreads
      headline={first?.answer ? <Headline answer={first.answer} /> : t('headlineNone')}
      tools={
        <Link href="/bases" className="small">
          {t('manage')}
        </Link>
      }
    >
      {bases?.length === 0 && <p className="soft m-0">{t(mayAsk ? 'none' : 'notYours')}</p>}
      {bases !== undefined && bases.length > 0 && (
        <div className="base-choice" role="group" aria-label={t('which')}>
          {bases.map((base) => (
            <Button
              key={base.id}
              variant="plain"
              size="sm"
              aria-pressed={wanted.some(({ id }) => id === base.id)}
              title={t('whichTitle', { games: base.games })}
              onClick={() => toggle(base.id)}
            >
              {base.name}
            </Button>
          ))}
        </div>
      )}
      {first && <Filters base={first.base} />}
      {asked.map((one) => (
        <BaseSays key={`${one.base.id} ${one.isCompared}`} asked={one} />
      ))}
      {first?.answer && first.answer.moves.length > 0 && (
        <BaseMoves
          asked={asked}
          onward={onward ?? NOTHING}
          place={place}
          chosen={isShown ? move : null}
          onChoose={setMove}
          onPreview={onPreview}
        />
      )}
      {first?.answer && first.answer.games > 0 && (
        <BaseGames
          base={first.base}
          place={place}
          position={position}
          move={isShown ? move : null}
          onPreview={onPreview}
        />
      )}
      {preview}
    </DeskCard>
  );
}

const NOTHING: Onward = [];

/** Which games count, and with which others of the same base they are compared. */
function Filters({ base }: { base: Base }) {
  const t = useTranslations('base');
  const filter = usePreferences((state) => state.baseFilter);
  const compared = usePreferences((state) => state.comparedFilter);
  const set = usePreferences((state) => state.set);
  return (
    <div>
      <BaseFilterForm
        base={base}
        filter={filter}
        summary={
          isFiltered(filter)
            ? t('filter.on', { count: Object.keys(filter).length })
            : t('filter.off')
        }
        onChange={(baseFilter) => set({ baseFilter })}
      />
      {compared && (
        <BaseFilterForm
          base={base}
          filter={compared}
          summary={t('filter.compared', { count: Object.keys(compared).length })}
          startsOpen
          onChange={(comparedFilter) => set({ comparedFilter })}
        />
      )}
      <Button
        variant="plain"
        size="sm"
        onClick={() => set({ comparedFilter: compared ? null : {} })}
      >
        {t(compared ? 'filter.noCompare' : 'filter.compare')}
      </Button>
    </div>
  );
}

/** The reader's bases for a game, and those of them that are asked, in the order in which they were chosen. */
function useAskedBases(kind: Base['kind'], mayAsk: boolean) {
  const { data: bases } = useQuery({
    queryKey: ['bases', 'list', kind],
    queryFn: () => call(listBases, { query: { kind } }),
    enabled: mayAsk,
  });
  const chosen = usePreferences((state) => state.askedBases);
  const set = usePreferences((state) => state.set);
  const known = chosen.flatMap((id) => bases?.find((base) => base.id === id) ?? []);
  const asked = known.length > 0 ? known : (bases ?? []).slice(0, 1);
  const toggle = (id: number): void => {
    const others = chosen.filter((one) => !asked.some((base) => base.id === one));
    const ids = asked.map((base) => base.id);
    const next = ids.includes(id)
      ? ids.filter((one) => one !== id)
      : [...ids, id].slice(-MOST_ASKED);
    set({ askedBases: [...others, ...next] });
  };
  return { bases: mayAsk ? bases : [], asked, toggle };
}

/** How many games, and the moves played most. */
function Headline({ answer: { games, moves } }: { answer: BaseAnswer }) {
  const t = useTranslations('base');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const notation = useShogiNotation();
  const place = useCardPlace();
  if (games === 0) return t('headlineNew');
  const said = moves
    .filter(({ move }) => move !== null)
    .slice(0, 2)
    .map((one) => {
      const [read] = readLine(ruleset, place.position, [one.move!], null, notation);
      return `${read?.text ?? one.move} ${Math.round((100 * one.games) / games)} %`;
    });
  return t('headline', { games, moves: said.join(', ') });
}

/** How much a base has to say, and what its games come to elsewhere. */
function BaseSays({
  asked: { base, name, answer, isCompared, isFiltered: hasFilter },
}: {
  asked: Asked;
}) {
  const t = useTranslations('base');
  if (!answer) return null;
  const usual = shareOf(answer.usual);
  return (
    <p className="soft small m-0" role="status">
      <strong>{name}</strong>{' '}
      {answer.games === 0
        ? t(hasFilter ? 'noneSuits' : 'neverHere', { games: base.games })
        : t('says', { games: answer.games, of: base.games })}
      {usual !== null && answer.games > 0 && ` · ${t('usual', { share: usual.toFixed(0) })}`}
      {base.indexed < base.games && ` · ${t('notYet', { games: base.games - base.indexed })}`}
      {!isCompared && <DepartureLine base={base} />}
    </p>
  );
}

/** Where the game on the Desk left a base, who left it, and what was usual. */
function DepartureLine({ base }: { base: Base }) {
  const t = useTranslations('base');
  const departure = useDepartures().find((one) => one.base.id === base.id);
  const view = useDesk((state) => state.view);
  const store = useDeskStore();
  const notation = useShogiNotation();
  const sideName = useSideName(view.ruleset);
  if (!departure) return null;
  const { ply, usual, games } = departure;
  if (ply === null) return <span className="d-block">{t('neverLeft')}</span>;
  // the sheet may have been changed since
  if (ply > view.line.length) return null;
  const before = view.positionOf(view.nodeAtPly(ply - 1));
  const text = (code: string): string => {
    const [read] = readLine(view.ruleset, before, [code], null, notation);
    return read?.text ?? code;
  };
  const number = numberText(view.ruleset, before);
  const left = `${number} ${text(view.ruleset.code(view.line[ply - 1]!.move))}`;
  const said = { move: left, side: sideName(view.ruleset.side(before)) };
  return (
    <button
      type="button"
      className="move-link d-block text-start"
      onClick={() => store.getState().goToPly(ply - 1)}
    >
      {usual
        ? t('departed', {
            ...said,
            usual: text(usual.move!),
            share: Math.round((100 * usual.games) / games),
            games,
          })
        : t('departedAlone', said)}
    </button>
  );
}
