import { rulesetOf } from '../rulesets';
import type { EndReason, Result } from './result';
import { tagOf, type GameRecord } from './record';
import type { GameKind } from './ruleset';
import { readTimeControl, type TimeControl } from './time-control';

export interface Player {
  name: string | null;
  rating: number | null;
  title: string | null;
  country: string | null;
  team: string | null;
}

/** What is known of a game besides its moves, taken from its tags. */
export interface GameInfo {
  kind: GameKind;
  /** By side. */
  players: [Player, Player];
  event: string | null;
  site: string | null;
  round: string | null;
  /** `YYYY`, `YYYY-MM` or `YYYY-MM-DD`. */
  date: string | null;
  /** `HH:MM:SS`, with its zone as an offset (`+09:00`, `Z`) where known. */
  time: string | null;
  rated: boolean | null;
  timeControl: TimeControl | null;
  timeControlText: string | null;
  result: Result;
  end: EndReason | null;
  source: string | null;
  /** A handicap's name; null for even games and chess. */
  handicap: string | null;
}

const known = (value: string | undefined): string | null => {
  const trimmed = value?.trim() ?? '';
  return trimmed === '' || /^[?.\-\s]+$/.test(trimmed) ? null : trimmed;
};

/** Reads the known tags; what is missing or `?` is null. */
export function gameInfo(record: GameRecord): GameInfo {
  const { tree, tags } = record;
  const tag = (name: string): string | null => known(tagOf(tags, name));
  const { sides, handicapOf } = rulesetOf(tree.kind);
  const player = (prefix: string): Player => ({
    name: tag(prefix),
    rating: readRating(tag(`${prefix}Elo`) ?? tag(`${prefix}Rating`)),
    title: tag(`${prefix}Title`),
    country: tag(`${prefix}Country`),
    team: tag(`${prefix}Team`),
  });
  const handicap = handicapOf(tree.start);
  return {
    kind: tree.kind,
    players: [player(tagNameOf(sides[0])), player(tagNameOf(sides[1]))],
    event: tag('Event'),
    site: tag('Site'),
    round: tag('Round'),
    ...readStart(tag),
    rated: readRated(tag('Rated')),
    timeControl: readTimeControl(tag('TimeControl') ?? undefined),
    timeControlText: tag('TimeControl'),
    result: record.result,
    end: record.end ?? endOfTermination(tag('Termination')),
    source: tag('Source'),
    handicap: handicap && handicap.name !== 'even' ? handicap.name : null,
  };
}

/** `White` or `Black`: the tag of a side's player, and the prefix of the player's other tags. */
export const tagNameOf = (side: 'white' | 'black'): 'White' | 'Black' =>
  side === 'white' ? 'White' : 'Black';

function readRating(text: string | null): number | null {
  const match = /^(\d{1,4})\??$/.exec(text ?? '');
  return match ? Number(match[1]) : null;
}

function readRated(text: string | null): boolean | null {
  if (text === null) return null;
  if (/^(yes|true|rated|1)$/i.test(text)) return true;
  return /^(no|false|casual|unrated|0)$/i.test(text) ? false : null;
}

function readStart(tag: (name: string) => string | null): Pick<GameInfo, 'date' | 'time'> {
  const utc = tag('UTCDate') !== null && tag('UTCTime') !== null;
  const date = readDate(utc ? tag('UTCDate') : tag('Date'));
  const time = readTime(utc ? tag('UTCTime') : tag('Time'));
  return { date, time: time === null ? null : utc ? `${time}Z` : time };
}

function readDate(text: string | null): string | null {
  const match = /^(\d{4})(?:[./-](\d{1,2}|\?\?))?(?:[./-](\d{1,2}|\?\?))?/.exec(text ?? '');
  if (!match) return null;
  const parts = [match[1]!];
  for (const part of [match[2], match[3]]) {
    if (part === undefined || part === '??' || Number(part) === 0) break;
    parts.push(part.padStart(2, '0'));
  }
  return parts.join('-');
}

function readTime(text: string | null): string | null {
  const match = /^(\d{1,2}):(\d{2})(?::(\d{2}))?\s*(Z|[+-]\d{2}:?\d{2})?$/.exec(text ?? '');
  if (!match) return null;
  const [, hours, minutes, seconds = '00', zone = ''] = match;
  return `${hours!.padStart(2, '0')}:${minutes}:${seconds}${zone}`;
}

const TERMINATIONS: readonly (readonly [RegExp, EndReason])[] = [
  [/time/i, 'time'],
  [/abandon|death|emergency/i, 'abandoned'],
  [/adjudicat/i, 'adjudication'],
  [/infraction|illegal/i, 'illegal move'],
  [/unterminated/i, 'interrupted'],
  [/checkmate|\bmate/i, 'checkmate'],
  [/resign/i, 'resignation'],
  [/stalemate/i, 'stalemate'],
  [/repetition/i, 'repetition'],
  [/agree/i, 'agreement'],
  [/forfeit/i, 'forfeit'],
];

const endOfTermination = (text: string | null): EndReason | null =>
  text === null ? null : (TERMINATIONS.find(([pattern]) => pattern.test(text))?.[1] ?? null);
