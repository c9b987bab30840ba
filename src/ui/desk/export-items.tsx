'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Dropdown from 'react-bootstrap/Dropdown';
import Form from 'react-bootstrap/Form';
import { formatsFor, lossesIn } from '@/core/notation/formats';
import { remarksQuery } from '@/core/review/remarks';
import { usePreferences } from '../preferences';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';

/** The formats that the game can go out in, with what each can't hold. */
export default function ExportItems() {
  const t = useTranslations('menu');
  const { record, ruleset } = useDesk((state) => state.view);
  const { review } = useReview();
  const gameId = useDesk((state) => state.gameId);
  const [findings, setFindings] = useState(true);
  const remarks = usePreferences((state) => state.remarks);
  const formats = formatsFor(ruleset.kind).filter((format) => format !== 'epd');
  const href = (format: string, encoding = ''): string =>
    `/api/games/${gameId}/export?format=${format}&findings=${findings && review ? 1 : 0}${findings && review ? `&${remarksQuery(remarks)}` : ''}${encoding}`;
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
