import type { GameKind } from '../game/ruleset';

export interface MateQuestion {
  /** FEN or SFEN. */
  position: string;
  /** Of the longest mate looked for: odd where the side to move gives it, even where it is mated. */
  plies: number;
  /** Positions to be expanded at most, before the moves that begin a mate are gone through. */
  nodes: number;
  /** The same for each question that follows from a mate found, whose answer is nearly always known. */
  following?: number;
}

/** What was found out about a forced mate. */
export interface MateAnswer {
  /** Plies of the mate; null where none was found. */
  mate: number | null;
  /** Of a mate, that none is shorter; else, that there is none within the plies asked for. */
  proven: boolean;
  /** That there is no mate at all by the moves looked at, however long. */
  never: boolean;
  /** Moves that begin a mate of that length; of a side that is mated, those that put it off longest. */
  first: string[];
  /** Moves that may be such ones too, but took more effort than was allowed. */
  undecided: number;
  /** The mate against the longest defence. */
  line: string[];
  /** Positions expanded. */
  nodes: number;
}

/** How far a mate is looked for where nothing else is said: in shogi by check alone, in chess by any move. */
export const MATE_PLIES: Record<GameKind, number> = { chess: 7, shogi: 25 };
/** Positions expanded where nothing else is said: some ten seconds. */
export const MATE_NODES = 3_000_000;
/** Mates of shogi problems and games are of checks alone; in chess a quiet move counts as well. */
export const isQuiet = (kind: GameKind): boolean => kind === 'chess';

/** What there is to know of mates at a position. */
export interface MateLook {
  /** The mate that the side to move can give. */
  own: MateAnswer;
  /** The mate that it suffers, in check, or else would suffer if it passed; null where that was not looked for. */
  danger: MateAnswer | null;
  /** Its moves after which no mate was found, where there is such a danger; null as long as that is not known. */
  holds: { moves: string[]; of: number; isProven: boolean } | null;
}

/** A shogi position whose mates are looked for. */
export interface LookQuestion {
  /** SFEN. */
  position: string;
  /** The position with the other side to move; null in check. */
  passed: string | null;
  /** Positions to be expanded at most for each mate. */
  nodes: number;
}
