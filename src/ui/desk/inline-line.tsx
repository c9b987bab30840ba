'use client';

import { Fragment } from 'react';
import type { NodeId } from '@/core/game/tree';
import { readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { releaseAfterClick, rove } from '../roving';
import { useDesk, useDeskStore } from './desk-store';

/** An engine's or a person's line from a node: each move shows its position on the board. */
export function InlineLine({
  base,
  codes,
  most,
  isStop,
}: {
  base: NodeId;
  codes: readonly string[];
  most: number;
  /** Whether the tab key stops at it. */
  isStop: boolean;
}) {
  const store = useDeskStore();
  const { view } = store.getState();
  const notation = useShogiNotation();
  const shown = useDesk(({ excursion }) =>
    excursion?.base === base && excursion.codes === codes ? excursion.step : 0,
  );
  const line = readLine(
    view.ruleset,
    view.positionOf(base),
    codes.slice(0, most),
    view.moveTo(base),
    notation,
  );
  return (
    <span onKeyDown={rove}>
      {line.map(({ text, number }, index) => (
        <Fragment key={index}>
          {number !== null && <span className="soft">{number} </span>}
          <button
            type="button"
            tabIndex={isStop && index === 0 ? 0 : -1}
            className={index + 1 === shown ? 'inline-move current' : 'inline-move'}
            onClick={(event) => {
              releaseAfterClick(event);
              store.getState().follow(base, codes, index + 1);
            }}
          >
            {text}
          </button>{' '}
        </Fragment>
      ))}
    </span>
  );
}
