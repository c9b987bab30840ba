'use client';

import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { fromJson, type RecordJson } from '@/core/game/serial';
import type { Side } from '@/core/game/ruleset';
import { ROOT, type NodeId } from '@/core/game/tree';
import { moveText, numberText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useAutosave } from './autosave';
import { BoardSide } from './board-side';
import { useCardOrder } from './card-order';
import { CardPlaceProvider } from './card-place';
import { Cards } from './cards';
import { Course } from './course';
import { useDeskKeys } from './desk-keys';
import { DeskMenu } from './desk-menu';
import type { ReviewState } from '@/contract/review';
import { ReviewProvider, useReview, useSweepReview } from './desk-review';
import { SetupProvider, type DeskSetup } from './desk-setup';
import {
  createDeskStore,
  DeskProvider,
  useDesk,
  useDeskStore,
  type StoredPlace,
} from './desk-store';
import { GivenBanner } from './given-banner';
import { GameView } from '../game-view';
import { RescueBanner } from './rescue-banner';
import { Sheet } from './sheet';
import { SheetTools } from './sheet-tools';
import { signsOf } from './sign';
import { signOfNag } from '@/core/review/verdict';

export interface DeskProps {
  setup: DeskSetup;
  stored: StoredPlace;
  game: RecordJson;
  /** Where the link that led here leads; another one each time that one is followed. */
  asked: { readonly node: NodeId };
  ownSide: Side | null;
  initial: ReviewState;
}

/** The workspace for one game. */
export function Desk({ setup, stored, game, asked, ownSide, initial }: DeskProps) {
  // on the way back, the page is the one of then, and only the address knows where one was
  const address = useSearchParams();
  const node = Number(address.get('node')) || (address.has('ply') ? asked.node : ROOT);
  const view = useMemo(() => new GameView(fromJson(game, { legality: 'trusted' })), [game]);
  const [store] = useState(() => createDeskStore(view, stored, node, ownSide === 1));
  const followed = useRef(asked);
  useEffect(() => {
    if (followed.current === asked) return;
    followed.current = asked;
    const { view: current, node: here, goTo } = store.getState();
    // another language brings the page anew with the address of where one is
    if (asked.node !== here && current.has(asked.node)) goTo(asked.node);
  }, [store, asked]);
  return (
    <SetupProvider value={setup}>
      <DeskProvider value={store}>
        <Workspace ownSide={ownSide} initial={initial} />
      </DeskProvider>
    </SetupProvider>
  );
}

function Workspace({ ownSide, initial }: Pick<DeskProps, 'ownSide' | 'initial'>) {
  const gameId = useDesk((state) => state.gameId);
  const review = useSweepReview(gameId, ownSide, initial);
  return (
    <ReviewProvider value={review}>
      <Areas />
    </ReviewProvider>
  );
}

/** All parts of the Desk; each looks after itself what it depends on. */
const Areas = memo(function Areas() {
  const isSpread = useCardOrder(({ spread }) => spread !== null);
  return (
    <main className={`desk ${isSpread ? 'has-spread' : ''}`} id="main">
      <BoardSide />
      <SheetSide />
      <CardPlaceProvider>
        <Cards />
      </CardPlaceProvider>
      <Course />
      <Attendance />
    </main>
  );
});

function SheetSide() {
  const t = useTranslations('sheet');
  const states = useTranslations('tools.state');
  const saveState = useAutosave();
  return (
    <section className="sheet-side" aria-label={t('title')}>
      <header className="d-flex align-items-center mb-1 gap-2">
        <h2 className="m-0">{t('title')}</h2>
        <span className="soft small" role="status">
          {states(saveState)}
        </span>
        <DeskMenu />
      </header>
      <GivenBanner />
      <ConflictBanner />
      <RescueBanner saveState={saveState} />
      <Sheet />
      <SheetTools />
    </section>
  );
}

/** Somebody else has changed the game while there was unsaved work: whose is to stand? */
function ConflictBanner() {
  const t = useTranslations('desk');
  const store = useDeskStore();
  const conflict = useDesk((state) => state.conflict);
  if (!conflict) return null;
  return (
    <div className="line-banner flex-wrap" role="alert">
      {t('conflict')}
      <Button variant="seal" onClick={() => store.getState().settle('merge')}>
        {t('merge')}
      </Button>
      <Button variant="plain" onClick={() => store.getState().settle('drop')}>
        {t('drop')}
      </Button>
    </div>
  );
}

const ADDRESS_PAUSE_MS = 250;

/** Keeps the address in step and answers to keys. */
function Attendance() {
  useDeskKeys();
  const store = useDeskStore();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    let isLeaving = false;
    const keepUp = (): void => {
      if (timer === null) return;
      clearTimeout(timer);
      timer = null;
      const { node, gameId } = store.getState();
      const url = new URL(window.location.href);
      if (gameId !== null) {
        url.pathname = `/games/${gameId}`;
        url.search = '';
      }
      url.searchParams.delete('ply');
      if (node === ROOT) url.searchParams.delete('node');
      else url.searchParams.set('node', String(node));
      window.history.replaceState(null, '', url);
    };
    const stop = store.subscribe((now, before) => {
      const isStep = now.node !== before.node;
      if (isStep) isLeaving = false;
      // a game that is stored while the next page is on its way leaves the address to that page
      const isKept = now.gameId !== before.gameId && !isLeaving;
      if (!isStep && !isKept) return;
      if (timer !== null) clearTimeout(timer);
      timer = setTimeout(keepUp, ADDRESS_PAUSE_MS);
      // at once: what asks the server next is to be about the stored game
      if (isKept) keepUp();
    });
    // an address changed while the next page is on its way would call that page off
    const lead = ({ target }: Event): void => {
      keepUp();
      isLeaving = target instanceof Element && target.closest('a[href]') !== null;
    };
    const ways = ['click', 'paste'] as const;
    for (const way of ways) window.addEventListener(way, lead, true);
    return () => {
      stop();
      if (timer !== null) clearTimeout(timer);
      for (const way of ways) window.removeEventListener(way, lead, true);
    };
  }, [store]);
  return <Announcer />;
}

/** Tells those who listen what is on the board. */
function Announcer() {
  const t = useTranslations('desk');
  const node = useDesk((state) => state.node);
  const view = useDesk((state) => state.view);
  const notation = useShogiNotation();
  const { review } = useReview();
  const current = view.node(node);
  const before = current.parent === null ? null : view.positionOf(current.parent);
  const verdict = view.isMainLine(node) ? review?.moves[view.plyOf(node) - 1]?.verdict : undefined;
  const signs = signsOf(current.symbols, verdict).map(signOfNag).join(' ');
  return (
    <div className="visually-hidden" aria-live="polite">
      {before === null
        ? t('atStart')
        : `${numberText(view.ruleset, before)} ${moveText(view.ruleset, before, current.move, view.moveTo(current.parent!), notation)} ${signs}`}
    </div>
  );
}
