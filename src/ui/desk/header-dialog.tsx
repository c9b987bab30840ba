'use client';

import { keepOwnSide } from '@/contract/games';
import { useState } from 'react';
import { useRouter } from 'next/navigation';
import { Dialog } from '../dialog/dialog';
import { useTranslations } from 'next-intl';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { headerOf, headerSchema, headerSteps, type Header } from '../game-header';
import { HeaderFields } from '../header-fields';
import { useSideName } from '../side-name';
import { useReview } from './desk-review';
import { call, succeeds } from '../call';
import { useDesk, useDeskStore } from './desk-store';
import { keepGame } from './keep-game';

/** Names, date, result and the like of the game, and which side was the reader's. */
export function HeaderDialog({ onClose }: { onClose(): void }) {
  const t = useTranslations('gameCard');
  const router = useRouter();
  const store = useDeskStore();
  const { ownSide } = useReview();
  const { record, ruleset } = useDesk((state) => state.view);
  const sideName = useSideName(ruleset);
  const [side, setSide] = useState(ownSide);
  const [failed, setFailed] = useState(false);
  const form = useForm<Header>({
    resolver: zodResolver(headerSchema),
    defaultValues: headerOf(record),
  });
  const save = async (header: Header): Promise<void> => {
    const { view, node, edit } = store.getState();
    const steps = headerSteps(view.record, header);
    if (steps.length > 0) edit({ steps, node });
    if (side !== ownSide) {
      const id = await keepGame(store);
      if (id === null || !(await succeeds(call(keepOwnSide, { id, body: { side } }))))
        return setFailed(true);
      router.refresh();
    }
    onClose();
  };
  return (
    <Dialog size="lg" title={t('edit')} onClose={onClose}>
      <form className="row g-2" onSubmit={(event) => void form.handleSubmit(save)(event)}>
        <HeaderFields kind={ruleset.kind} form={form} />
        <div className="col-6 col-md-3">
          <label className="form-label" htmlFor="own-side">
            {t('ownSide')}
          </label>
          <Form.Select
            id="own-side"
            value={side ?? ''}
            onChange={({ target }) =>
              setSide(target.value === '' ? null : (Number(target.value) as 0 | 1))
            }
          >
            <option value="">{t('ownSideUnknown')}</option>
            <option value="0">{sideName(0)}</option>
            <option value="1">{sideName(1)}</option>
          </Form.Select>
        </div>
        {failed && <p role="alert">{t('notSaved')}</p>}
        <div className="col-12 d-flex gap-2 justify-content-end">
          <Button variant="plain" onClick={onClose}>
            {t('cancelEdit')}
          </Button>
          <Button type="submit" variant="seal" disabled={form.formState.isSubmitting}>
            {t('saveEdit')}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
