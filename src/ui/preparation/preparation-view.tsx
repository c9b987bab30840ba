'use client';

import { sideOfWord } from '@/contract/shapes';
import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import Form from 'react-bootstrap/Form';
import { listBases } from '@/contract/bases';
import { preparationHref, showPreparation, type PreparationQuery } from '@/contract/preparation';
import { GAME_KINDS } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { GameBoard } from '../board/game-board';
import { call } from '../call';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { SpanField } from '../span-field';
import { CheckedGames } from './checked-games';
import { DoubtList } from './doubt-list';
import { GapList } from './gap-list';
import { LineTree } from './line-tree';
import { SheetList } from './sheet-list';
import type { Shown } from './shown';

/** All that a player has prepared for a side, and how it fares. */
export function PreparationView({ asked }: { asked: PreparationQuery }) {
  const t = useTranslations('preparation');
  const kinds = useTranslations('games');
  const sides = useTranslations('sides');
  const router = useRouter();
  const client = useQueryClient();
  const [shown, setShown] = useState<Shown | null>(null);
  const { kind, side } = asked;
  const ruleset = rulesetOf(kind);
  const refresh = (): Promise<void> => refreshQueries(client, ['preparation']);
  useServerEvents(
    ({ type, done }) => {
      // sweeps tell of each of their steps
      if (type === 'game' || type === 'import' || (type === 'sweep' && done)) void refresh();
    },
    () => void refresh(),
  );
  const { data: bases } = useQuery({
    queryKey: ['bases', 'list', kind],
    queryFn: () => call(listBases, { query: { kind } }),
  });
  // the largest has most to say of what opponents play
  const base = asked.base ?? bases?.toSorted((a, b) => b.games - a.games)[0]?.id;
  const opponents = { base, rating: asked.rating };
  const { data, isError } = useQuery({
    queryKey: ['preparation', 'tree', kind, side, opponents],
    queryFn: () => call(showPreparation, { query: { kind, side, ...opponents } }),
    enabled: bases !== undefined,
    placeholderData: (before) => before,
  });
  const go = (change: Partial<PreparationQuery>): void =>
    router.replace(preparationHref({ ...asked, ...change }), { scroll: false });
  return (
    <>
      <div className="d-flex align-items-baseline gap-3 flex-wrap">
        <h1 className="m-0">{t('title')}</h1>
        <nav className="preparation-choice d-flex gap-1 flex-wrap" aria-label={t('which')}>
          {GAME_KINDS.flatMap((one) =>
            (['first', 'second'] as const).map((other) => (
              <Link
                key={one + other}
                className="btn btn-plain btn-sm"
                href={preparationHref({ kind: one, side: other })}
                aria-current={one === kind && other === side ? 'page' : undefined}
              >
                {t('whichOne', {
                  game: kinds(one),
                  side: sides(`${one}.${rulesetOf(one).sides[sideOfWord(other)]}`),
                })}
              </Link>
            )),
          )}
        </nav>
      </div>
      <SheetList which={{ kind, side }} onChange={() => void refresh()} />
      <section className="quiet-box preparation-lines" aria-labelledby="lines">
        <div className="d-flex align-items-end gap-3 flex-wrap">
          <h2 id="lines" className="m-0 me-auto">
            {t('lines')}
          </h2>
          <label className="small">
            <span className="soft d-block">{t('opponents')}</span>
            <Form.Select
              size="sm"
              value={base ?? ''}
              onChange={({ target }) =>
                go({ base: target.value === '' ? undefined : Number(target.value) })
              }
            >
              {bases?.length === 0 && <option value="">{t('noBase')}</option>}
              {bases?.map(({ id, name, games }) => (
                <option key={id} value={id}>
                  {t('ofBase', { name, games })}
                </option>
              ))}
            </Form.Select>
          </label>
          <SpanField
            key={asked.rating ?? ''}
            label={t('rating')}
            value={asked.rating}
            onChange={(rating) => go({ rating })}
          />
        </div>
        {isError && <p role="alert">{t('failed')}</p>}
        {data && data.stretches.length === 0 && <p className="soft m-0">{t('empty')}</p>}
        {data && data.stretches.length > 0 && (
          <div className="preparation-columns">
            <LineTree kind={kind} {...data} onShow={setShown} />
            <div className="preparation-side">
              <div className="preparation-board">
                <GameBoard
                  kind={kind}
                  position={ruleset.start(shown?.position ?? data.stretches[0]!.position)}
                  flipped={side === 'second'}
                  lastMove={shown?.move ? ruleset.parseCode(shown.move) : null}
                  label={t('board')}
                />
              </div>
              <GapList
                kind={kind}
                gaps={data.gaps}
                isAsked={base !== undefined}
                onShow={setShown}
              />
            </div>
          </div>
        )}
      </section>
      <CheckedGames which={{ kind, side }} onShow={setShown} />
      <DoubtList which={{ kind, side }} />
    </>
  );
}
