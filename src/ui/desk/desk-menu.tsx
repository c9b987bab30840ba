'use client';

import { useState } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { removeGame } from '@/contract/games';
import { formatsFor, lossesIn } from '@/core/notation/formats';
import { call, succeeds } from '../call';
import { usePreferences } from '../preferences';
import { ShareDialog } from '../share/share-dialog';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';
import { ToolMenu } from './tool-menu';

/** Taking the game out, the way it is shown, and deleting it. */
export function DeskMenu() {
  const t = useTranslations('menu');
  const isKept = useDesk(({ gameId }) => gameId !== null);
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
          <Button variant="plain" onClick={() => setDeleting(true)}>
            {t('delete')}
          </Button>
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

/** The formats that the game can go out in, with what each can't hold. */
function ExportItems() {
  const t = useTranslations('menu');
  const { record, ruleset } = useDesk((state) => state.view);
  const { review } = useReview();
  const gameId = useDesk((state) => state.gameId);
  const [findings, setFindings] = useState(true);
  const formats = formatsFor(ruleset.kind).filter((format) => format !== 'epd');
  const href = (format: string, encoding = ''): string =>
    `/api/games/${gameId}/export?format=${format}&findings=${findings && review ? 1 : 0}${encoding}`;
  return (
    <>
      <div className="px-3 py-1">
        <Form.Check
          id="with-findings"
          label={review ? t('withFindings') : t('noFindings')}
          checked={findings && review !== null}
          disabled={review === null}
          onChange={(event) => setFindings(event.target.checked)}
        />
      </div>
      <Dropdown.Divider />
      {formats.map((format) => {
        const losses = lossesIn(record, format);
        const lacks =
          review && findings && format === 'csa'
            ? [...new Set([...losses, 'variations' as const])]
            : losses;
        return (
          <Dropdown.Item key={format} href={href(format)} download className="text-wrap">
            {t(`formats.${format}`)}
            {lacks.length > 0 && (
              <span className="soft d-block small">
                {t('lacks', { what: lacks.map((lack) => t(`lack.${lack}`)).join(', ') })}
              </span>
            )}
          </Dropdown.Item>
        );
      })}
      {formats.includes('kif') && (
        <Dropdown.Item href={href('kif', '&encoding=sjis')} download>
          {t('formats.kifShiftJis')}
        </Dropdown.Item>
      )}
    </>
  );
}

function ShareMenu() {
  const t = useTranslations('share');
  const [sharing, setSharing] = useState(false);
  return (
    <>
      <ToolMenu text={t('menu')} align="end">
        <ShareItems onShare={() => setSharing(true)} />
      </ToolMenu>
      {sharing && <ShareDialog onClose={() => setSharing(false)} />}
    </>
  );
}

function ShareItems({ onShare }: { onShare(): void }) {
  const t = useTranslations('share');
  const gameId = useDesk((state) => state.gameId);
  const node = useDesk((state) => state.node);
  return (
    <>
      <Dropdown.Item as="button" onClick={onShare}>
        {t('open')}
      </Dropdown.Item>
      <Dropdown.Item as={Link} href={`/games/${gameId}/print`} prefetch={false}>
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
    if (!(await succeeds(call(removeGame, { id: gameId! })))) return setFailed(true);
    // the address leads nowhere any more, so it is not left in the history
    router.replace('/');
    router.refresh();
  };
  return (
    <Modal show centered onHide={onClose} aria-labelledby="delete-title">
      <Modal.Body>
        <h2 id="delete-title">{t('deleteTitle')}</h2>
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
      </Modal.Body>
    </Modal>
  );
}
