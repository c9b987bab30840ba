import { readFileSync } from 'node:fs';

/** Columns of the first line of /proc/stat that are told as time (proc(5)): user to steal; what follows is counted in user already. */
const COLUMNS = 8;
const STEAL = 7;

/** @param stat as /proc/stat has it */
export function stolenBetween(before: string, after: string): number {
  const timesOf = (stat: string): number[] =>
    stat
      .split('\n', 1)[0]!
      .trim()
      .split(/\s+/)
      .slice(1, COLUMNS + 1)
      .map(Number);
  const [from, to] = [timesOf(before), timesOf(after)];
  const spent = to.map((time, column) => time - from[column]!);
  const all = spent.reduce((sum, time) => sum + time, 0);
  return all === 0 ? 0 : spent[STEAL]! / all;
}

/** Begins to watch how much of the cores other machines of the same host take: what is measured in that time is slower by more than that. */
export function watchStolen(): () => string {
  const read = (): string => {
    try {
      return readFileSync('/proc/stat', 'utf8');
    } catch {
      return '';
    }
  };
  const before = read();
  return () => {
    const after = read();
    if (before === '' || after === '') return 'time that others take is not known here';
    return `${(100 * stolenBetween(before, after)).toFixed(0)} % of the cores taken by others`;
  };
}
