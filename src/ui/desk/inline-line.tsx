'use client';

import { Fragment } from 'react';
import type { NodeId } from '@/core/game/tree';
import { readLine } from '../move-text';
import { usePreferences } from '../preferences';
import { useDesk, useDeskStore } from './desk-store';

/** An engine's or a person's line from a node: each move shows its position on the board. */
export function InlineLine({
  base,
  codes,
  most,
}: {
  base: NodeId;
  codes: readonly string[];
  most: number;
}) {
  const store = useDeskStore();
  const { view } = store.getState();
  const notation = usePreferences((state) => state.shogiNotation);
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
    <>
      {line.map(({ text, number }, index) => (
        <Fragment key={index}>
          {number !== null && <span className="soft">{number} </span>}
          <button
            type="button"
            className={index + 1 === shown ? 'inline-move current' : 'inline-move'}
            onClick={() => store.getState().follow(base, codes, index + 1)}
          >
            {text}
          </button>{' '}
        </Fragment>
      ))}
    </>
  );
}
