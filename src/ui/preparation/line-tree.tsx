'use client';

import { useState, type CSSProperties } from 'react';
import Link from 'next/link';
import { useTranslations } from 'next-intl';
import Form from 'react-bootstrap/Form';
import type { PreparationGap, PreparedStretch } from '@/contract/preparation';
import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { gameHref } from '../desk-href';
import { LineText } from '../line-text';
import { numberText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { Expected } from './expected';
import type { Shown } from './shown';
import { useGap } from './use-gap';

/** In how many of 100 games a line must be expected, to be shown. */
const LEAST = [0, 0.5, 1, 2, 5] as const;

const indent = (depth: number): CSSProperties => ({ '--depth': depth }) as CSSProperties;

/** All sheets as an outline: how often each line is to be expected, and what is missing where. */
export function LineTree({
  kind,
  stretches,
  gaps,
  onShow,
}: {
  kind: GameKind;
  stretches: readonly PreparedStretch[];
  gaps: readonly PreparationGap[];
  onShow(shown: Shown): void;
}) {
  const t = useTranslations('preparation');
  const [least, setLeast] = useState<number>(LEAST[0]);
  const missing = Map.groupBy(gaps, ({ at }) => `${at.sheet} ${at.node}`);
  const isShown = (expected: number | null): boolean => least === 0 || (expected ?? 0) >= least;
  return (
    <div className="preparation-tree">
      <label className="small soft d-flex gap-2 align-items-center">
        {t('least')}
        <Form.Select
          size="sm"
          className="w-auto"
          value={least}
          onChange={({ target }) => setLeast(Number(target.value))}
        >
          {LEAST.map((one) => (
            <option key={one} value={one}>
              {one === 0 ? t('all') : t('atLeast', { games: one })}
            </option>
          ))}
        </Form.Select>
      </label>
      <ul>
        {stretches
          .filter(({ expected }) => isShown(expected))
          .map((stretch) => (
            <li key={`${stretch.sheet} ${stretch.node}`} style={indent(stretch.depth)}>
              <StretchLine kind={kind} stretch={stretch} onShow={onShow} />
              {missing
                .get(`${stretch.sheet} ${stretch.nodes.at(-1)}`)
                ?.filter(({ expected }) => isShown(expected))
                .map((gap) => (
                  <GapLine key={gap.move ?? ''} kind={kind} gap={gap} onShow={onShow} />
                ))}
            </li>
          ))}
      </ul>
    </div>
  );
}

function StretchLine({
  kind,
  stretch: { sheet, node, position, moves, expected },
  onShow,
}: {
  kind: GameKind;
  stretch: PreparedStretch;
  onShow(shown: Shown): void;
}) {
  const ruleset = rulesetOf(kind);
  const line = readLine(ruleset, ruleset.start(position), moves, null, useShogiNotation());
  const show = (): void =>
    onShow({ position: ruleset.write(line.at(-1)!.position), move: moves.at(-1)! });
  return (
    <Link
      className="stretch"
      href={gameHref(sheet, node)}
      prefetch={false}
      onMouseEnter={show}
      onFocus={show}
    >
      <span>
        <LineText line={line} />
      </span>
      <Expected games={expected} />
    </Link>
  );
}

/** A reply that is missing, and where its line goes on in the sheet. */
function GapLine({
  kind,
  gap,
  onShow,
}: {
  kind: GameKind;
  gap: PreparationGap;
  onShow(shown: Shown): void;
}) {
  const t = useTranslations('preparation');
  const ruleset = rulesetOf(kind);
  const { line, before, href, shown } = useGap(kind, gap);
  const { kind: what, move, games, of, expected } = gap;
  const show = (): void => onShow(shown);
  return (
    <Link
      className="stretch missing"
      href={href}
      prefetch={false}
      onMouseEnter={show}
      onFocus={show}
    >
      <span>
        {move === null
          ? t('endsUnknown')
          : t(`missing.${what}`, {
              move: `${numberText(ruleset, before)} ${line.at(-1)!.text}`,
              share: Math.round((100 * games) / of),
              of,
            })}
      </span>
      <Expected games={expected} />
    </Link>
  );
}
