import { Fragment } from 'react';
import type { LineMove } from './move-text';

/** A line to be read; no move of it is broken in two at the end of a row. */
export const LineText = ({ line }: { line: readonly LineMove[] }) =>
  line.map(({ number, text }, index) => (
    <Fragment key={index}>
      {index > 0 && ' '}
      <span className="text-nowrap">{number === null ? text : `${number} ${text}`}</span>
    </Fragment>
  ));
