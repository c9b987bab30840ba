'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Dropdown from 'react-bootstrap/Dropdown';
import Form from 'react-bootstrap/Form';
import { filterQuery, type GameFilter } from '@/contract/game-filter';
import { GAME_KINDS } from '@/core/game/ruleset';
import { formatsFor, lacksOf } from '@/core/notation/formats';
import { remarksQuery } from '@/core/review/remarks';
import { usePreferences } from '../preferences';
import { choiceOf, useSelection } from './selection';

/** The formats that games can be taken out in, with what each can't hold, and the table. */
export default function TakeOutItems({ filter }: { filter: GameFilter }) {
  const t = useTranslations('games');
  const menu = useTranslations('menu');
  const [findings, setFindings] = useState(true);
  const remarks = usePreferences((state) => state.remarks);
  const selection = useSelection();
  const { ids, ...held } = choiceOf(selection, filter) ?? { ...filter, ids: undefined };
  const query = [String(filterQuery(held)), ids ? `ids=${ids.join(',')}` : ''];
  const href = (format: string, more = ''): string =>
    `/api/games/export?${[`format=${format}`, ...query, more].filter(Boolean).join('&')}`;
  const asText = `findings=${findings ? `1&${remarksQuery(remarks)}` : '0'}`;
  const kinds = filter.kind ? [filter.kind] : GAME_KINDS;
  return (
    <>
      <div className="px-3 py-1">
        <Form.Check
          id="with-findings"
          label={menu('withFindings')}
          checked={findings}
          onChange={(event) => setFindings(event.target.checked)}
        />
      </div>
      {kinds.map((kind) => (
        <div key={kind} role="group" aria-label={t(kind)}>
          <Dropdown.Header as="h3">{t(kind)}</Dropdown.Header>
          {formatsFor(kind).map((format) => (
            <Dropdown.Item key={format} href={href(format, asText)} download>
              {menu(`formats.${format}`)}
              {lacksOf(format).length > 0 && (
                <span className="soft small">
                  {' '}
                  {menu('lacks', {
                    what: lacksOf(format)
                      .map((lack) => menu(`lack.${lack}`))
                      .join(', '),
                  })}
                </span>
              )}
            </Dropdown.Item>
          ))}
          {kind === 'shogi' && (
            <Dropdown.Item href={href('kif', `${asText}&encoding=sjis`)} download>
              {menu('formats.kifShiftJis')}
            </Dropdown.Item>
          )}
        </div>
      ))}
      <Dropdown.Divider />
      <Dropdown.Item href={href('csv')} download>
        {t('asTable')}
      </Dropdown.Item>
    </>
  );
}
