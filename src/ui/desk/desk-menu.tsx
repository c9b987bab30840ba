'use client';

import { useState } from 'react';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Dialog } from '../dialog/dialog';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import { changeGames } from '@/contract/library';
import { call } from '../call';
import { remarksQuery } from '@/core/review/remarks';
import { usePreferences } from '../preferences';
import { useDesk, useMay } from './desk-store';
import { ToolMenu } from '../tool-menu';

// what is not seen at first comes when it is opened
const ExportItems = dynamic(() => import('./export-items'), { ssr: false });
const GiveDialog = dynamic(
  () => import('../given/give-dialog').then((module) => module.GiveDialog),
  { ssr: false },
);
const ShareDialog = dynamic(
  () => import('../share/share-dialog').then((module) => module.ShareDialog),
  { ssr: false },
);

/** Taking the game out, the way it is shown, and deleting it. */
export function DeskMenu() {
  const t = useTranslations('menu');
  const isKept = useDesk(({ gameId }) => gameId !== null);
  const isOwn = useMay('own');
  const canChoose = useDesk(({ view }) => view.ruleset.writings.length > 1);
  const [deleting, setDeleting] = useState(false);
  return (
    <div className="d-flex gap-2 ms-auto">
      {canChoose && (
        <ToolMenu text={t('display')} align="end">
          <DisplayItems />
        </ToolMenu>
      )}
      {isKept && (
        <>
          <ToolMenu text={t('export')} align="end" className="export-menu">
            <ExportItems />
          </ToolMenu>
          <ShareMenu />
          {isOwn && (
            <Button variant="plain" onClick={() => setDeleting(true)}>
              {t('delete')}
            </Button>
          )}
        </>
      )}
      {deleting && <DeleteDialog onClose={() => setDeleting(false)} />}
    </div>
  );
}

function DisplayItems() {
  const t = useTranslations('menu');
  const preferences = usePreferences();
  return (
    <>
      {(['kanji', 'letters'] as const).map((pieces) => (
        <Dropdown.Item
          key={pieces}
          as="button"
          active={false}
          onClick={() => preferences.set({ shogiPieces: pieces })}
        >
          {preferences.shogiPieces === pieces ? '● ' : '○ '}
          {t(`pieces.${pieces}`)}
        </Dropdown.Item>
      ))}
      <Dropdown.Divider />
      {(['language', 'western', 'japanese'] as const).map((notation) => (
        <Dropdown.Item
          key={notation}
          as="button"
          onClick={() => preferences.set({ shogiNotation: notation })}
        >
          {preferences.shogiNotation === notation ? '● ' : '○ '}
          {t(`notation.${notation}`)}
        </Dropdown.Item>
      ))}
    </>
  );
}

function ShareMenu() {
  const t = useTranslations('share');
  const gameId = useDesk((state) => state.gameId);
  const [sharing, setSharing] = useState(false);
  const [giving, setGiving] = useState(false);
  return (
    <>
      <ToolMenu text={t('menu')} align="end">
        <ShareItems onShare={() => setSharing(true)} onGive={() => setGiving(true)} />
      </ToolMenu>
      {sharing && <ShareDialog onClose={() => setSharing(false)} />}
      {giving && gameId !== null && <GiveDialog gameId={gameId} onClose={() => setGiving(false)} />}
    </>
  );
}

function ShareItems({ onShare, onGive }: { onShare(): void; onGive(): void }) {
  const t = useTranslations('share');
  const gameId = useDesk((state) => state.gameId);
  const node = useDesk((state) => state.node);
  const isOwn = useMay('own');
  const remarks = usePreferences((state) => state.remarks);
  return (
    <>
      <Dropdown.Item as="button" onClick={onShare}>
        {t('open')}
      </Dropdown.Item>
      {isOwn && (
        <Dropdown.Item as="button" onClick={onGive}>
          {t('give')}
        </Dropdown.Item>
      )}
      <Dropdown.Item
        as={Link}
        href={`/games/${gameId}/print?${remarksQuery(remarks)}`}
        prefetch={false}
      >
        {t('printPage')}
      </Dropdown.Item>
      {/* a page of its own, which keeps nothing of what follows */}
      <Dropdown.Item href={`/games/${gameId}/question?node=${node}`}>{t('question')}</Dropdown.Item>
    </>
  );
}

function DeleteDialog({ onClose }: { onClose(): void }) {
  const t = useTranslations('menu');
  const router = useRouter();
  const gameId = useDesk((state) => state.gameId);
  const [failed, setFailed] = useState(false);
  const remove = async (): Promise<void> => {
    let at: string | null;
    try {
      ({ deleted: at } = await call(changeGames, {
        body: { games: { ids: [gameId!] }, change: { do: 'delete' } },
      }));
    } catch {
      return setFailed(true);
    }
    // the address leads nowhere any more, so it is not left in the history
    router.replace(`/?gone=${at ?? ''}`);
    router.refresh();
  };
  return (
    <Dialog title={t('deleteTitle')} onClose={onClose}>
      <p>{t('deleteText')}</p>
      {failed && <p role="alert">{t('deleteFailed')}</p>}
      <div className="d-flex gap-2 justify-content-end">
        <Button variant="plain" onClick={onClose}>
          {t('keep')}
        </Button>
        <Button variant="seal" onClick={() => void remove()}>
          {t('delete')}
        </Button>
      </div>
    </Dialog>
  );
}
