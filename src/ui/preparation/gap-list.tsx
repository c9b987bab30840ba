'use client';

import { FEW_GAMES } from '@/core/game/score-share';
import { useState } from 'react';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import type { PreparationGap } from '@/contract/preparation';
import type { GameKind } from '@/core/game/ruleset';
import { LineText } from '../line-text';
import { Expected } from './expected';
import type { Shown } from './shown';
import { useGap } from './use-gap';

const SHOWN_AT_FIRST = 12;
/** What comes that nothing is prepared for, the most frequent first. */
export function GapList({
  kind,
  gaps,
  isAsked,
  onShow,
}: {
  kind: GameKind;
  gaps: readonly PreparationGap[];
  /** There is a base by which it is reckoned. */
  isAsked: boolean;
  onShow(shown: Shown): void;
}) {
  const t = useTranslations('preparation');
  const [isWhole, setWhole] = useState(false);
  const shown = isWhole ? gaps : gaps.slice(0, SHOWN_AT_FIRST);
  return (
    <section aria-labelledby="gaps" className="preparation-gaps">
      <h3 id="gaps" className="m-0">
        {t('gaps')}
      </h3>
      {!isAsked && <p className="soft small m-0">{t('needsBase')}</p>}
      {isAsked && gaps.length === 0 && <p className="soft small m-0">{t('noGaps')}</p>}
      {gaps.length > 0 && <p className="soft small m-0">{t('gapsAbout')}</p>}
      <ol>
        {shown.map((gap) => (
          <GapRow
            key={`${gap.at.sheet} ${gap.at.node} ${gap.move}`}
            kind={kind}
            gap={gap}
            onShow={onShow}
          />
        ))}
      </ol>
      {gaps.length > SHOWN_AT_FIRST && (
        <Button variant="plain" size="sm" onClick={() => setWhole(!isWhole)}>
          {isWhole ? t('fewer') : t('more', { count: gaps.length - SHOWN_AT_FIRST })}
        </Button>
      )}
    </section>
  );
}

function GapRow({
  kind,
  gap,
  onShow,
}: {
  kind: GameKind;
  gap: PreparationGap;
  onShow(shown: Shown): void;
}) {
  const t = useTranslations('preparation');
  const { line, href, shown } = useGap(kind, gap);
  const { kind: what, move, games, of, expected } = gap;
  const show = (): void => onShow(shown);
  return (
    <li className={of < FEW_GAMES ? 'few' : undefined}>
      <span>
        <Link href={href} prefetch={false} onMouseEnter={show} onFocus={show}>
          <LineText line={line} />
        </Link>{' '}
        <span className="soft">
          {move === null
            ? t('endsUnknown')
            : t(`share.${what}`, { share: Math.round((100 * games) / of), of })}
        </span>
      </span>
      <Expected games={expected} />
    </li>
  );
}
