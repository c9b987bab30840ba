import type { Tag } from '../game/record';

/**
 * Start times as Japanese files write them (`2026/03/14 10:00:00`, `2026年3月14日(土) 10:00`) as Date and Time tags;
 * null where the text is no such time.
 */
export function readStartTime(text: string): Tag[] | null {
  const match =
    /^(\d{4})[/年.-](\d{1,2})(?:[/月.-](\d{1,2})日?)?(?:\([^)]*\)|（[^）]*）)?\s*(?:(\d{1,2})[:時](\d{1,2})分?(?::(\d{1,2})|(\d{1,2})秒)?)?$/.exec(
      text.trim(),
    );
  if (!match) return null;
  const [, year, month, day, hours, minutes, seconds, secondsToo] = match;
  const two = (value: string | undefined): string => (value ?? '0').padStart(2, '0');
  const date = `${year}.${two(month)}.${day === undefined ? '??' : two(day)}`;
  const tags: Tag[] = [{ name: 'Date', value: date }];
  if (hours !== undefined)
    tags.push({
      name: 'Time',
      value: `${two(hours)}:${two(minutes)}:${two(seconds ?? secondsToo)}`,
    });
  return tags;
}

/** `2026/03/14 10:00:00` from the tags, or null without a date. */
export function writeStartTime(date: string | undefined, time: string | undefined): string | null {
  if (date === undefined || !/^\d{4}/.test(date)) return null;
  const day = date.replace(/[.-]/g, '/').replace(/\/\?\?/g, '');
  return time === undefined ? day : `${day} ${time}`;
}
