import { squareName, squareOfName } from '../shogi/board-geometry';
import type { CommandDialect } from './comment-commands';

export const SHOGI_DIALECT: CommandDialect = {
  square: squareOfName,
  squareName,
  mateIn: 'plies',
  symbols: true,
};
