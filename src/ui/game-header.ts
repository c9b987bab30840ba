import * as z from 'zod';
import { gameInfo, tagNameOf } from '@/core/game/info';
import { tagOf, type GameRecord, type Tag } from '@/core/game/record';
import { RESULTS } from '@/core/game/result';
import type { GameKind } from '@/core/game/ruleset';
import type { Step } from '@/core/game/steps';
import { rulesetOf } from '@/core/rulesets';

/** What the head of a score sheet says, as it is typed. */
export const headerSchema = z.object({
  first: z.string().trim().max(100),
  second: z.string().trim().max(100),
  firstRating: z
    .string()
    .trim()
    .regex(/^\d{0,4}$/),
  secondRating: z
    .string()
    .trim()
    .regex(/^\d{0,4}$/),
  event: z.string().trim().max(200),
  round: z.string().trim().max(20),
  date: z
    .string()
    .trim()
    .regex(/^(\d{4}(-\d\d(-\d\d)?)?)?$/),
  timeControl: z.string().trim().max(60),
  result: z.enum(RESULTS),
});
export type Header = z.infer<typeof headerSchema>;

export const EMPTY_HEADER: Header = {
  first: '',
  second: '',
  firstRating: '',
  secondRating: '',
  event: '',
  round: '',
  date: '',
  timeControl: '',
  result: '*',
};

/** By their names, the tags that a header stands for; null where it says nothing. */
function tagValues(kind: GameKind, header: Header): [name: string, value: string | null][] {
  const { sides } = rulesetOf(kind);
  const { date } = header;
  const values: [string, string][] = [
    ['Event', header.event],
    ['Date', date === '' ? '' : date.split('-').concat('??', '??').slice(0, 3).join('.')],
    ['Round', header.round],
    [tagNameOf(sides[0]), header.first],
    [tagNameOf(sides[1]), header.second],
    [`${tagNameOf(sides[0])}Elo`, header.firstRating],
    [`${tagNameOf(sides[1])}Elo`, header.secondRating],
    ['TimeControl', header.timeControl],
  ];
  return values.map(([name, value]) => [name, value === '' ? null : value]);
}

export const tagsOf = (kind: GameKind, header: Header): Tag[] =>
  tagValues(kind, header).flatMap(([name, value]) => (value === null ? [] : [{ name, value }]));

/** The header of a game, as it would be typed. */
export function headerOf(record: GameRecord): Header {
  const { players, event, round, date, timeControlText } = gameInfo(record);
  const [first, second] = players;
  return {
    first: first.name ?? '',
    second: second.name ?? '',
    firstRating: String(first.rating ?? ''),
    secondRating: String(second.rating ?? ''),
    event: event ?? '',
    round: round ?? '',
    date: date ?? '',
    timeControl: timeControlText ?? '',
    result: record.result,
  };
}

/** The steps that change a game's header to what was typed; what was left as it was is not touched. */
export function headerSteps(record: GameRecord, header: Header): Step[] {
  const { kind } = record.tree;
  const before = new Map(tagValues(kind, headerOf(record)));
  const steps: Step[] = tagValues(kind, header)
    .filter(([name, value]) => before.get(name) !== value)
    .map(([name, value]) => ({ type: 'tag', name, value }));
  // the start in universal time would go on telling the old date
  if (steps.some((step) => step.type === 'tag' && step.name === 'Date'))
    for (const name of ['UTCDate', 'UTCTime'])
      if (tagOf(record.tags, name) !== undefined) steps.push({ type: 'tag', name, value: null });
  if (header.result !== record.result)
    steps.push({ type: 'finish', result: header.result, end: null });
  return steps;
}
