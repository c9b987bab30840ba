/** A part of a game's allotted time. Seconds throughout. */
export interface TimeStage {
  /** Moves to be made in this stage; null: all the rest. */
  moves: number | null;
  base: number;
  /** Added after each move. */
  increment: number;
}

export interface TimeControl {
  stages: TimeStage[];
  /** Seconds for each move once the base time is used up. */
  byoyomi: number;
  /** Each move takes away what the other gains. */
  hourglass: boolean;
}

const single = (base: number, increment = 0, byoyomi = 0): TimeControl => ({
  stages: [{ moves: null, base, increment }],
  byoyomi,
  hourglass: false,
});

/**
 * Understands PGN (`40/7200:3600`, `900+10`, `*180`), CSA (`00:25+30`, `1500+30+0`) and Japanese free text
 * (`各10分`, `1時間+60秒`, `30分 秒読み30秒`). Null where there is no time control or none that it knows.
 */
export function readTimeControl(text: string | undefined): TimeControl | null {
  const trimmed = text?.trim() ?? '';
  if (trimmed === '' || trimmed === '?' || trimmed === '-') return null;
  return readCsa(trimmed) ?? readPgn(trimmed) ?? readJapanese(trimmed);
}

function readCsa(text: string): TimeControl | null {
  const clock = /^(\d{1,3}):(\d{2})\+(\d{1,4})$/.exec(text);
  if (clock) return single(Number(clock[1]) * 3600 + Number(clock[2]) * 60, 0, Number(clock[3]));
  const sums = /^(\d{1,6}(?:\.\d+)?)\+(\d{1,5}(?:\.\d+)?)\+(\d{1,5}(?:\.\d+)?)$/.exec(text);
  return sums ? single(Number(sums[1]), Number(sums[3]), Number(sums[2])) : null;
}

function readPgn(text: string): TimeControl | null {
  const hourglass = /^\*(\d{1,6})$/.exec(text);
  if (hourglass) return { ...single(Number(hourglass[1])), hourglass: true };
  const stages: TimeStage[] = [];
  for (const part of text.split(':')) {
    const match = /^(?:(\d{1,4})\/)?(\d{1,6}(?:\.\d+)?)(?:\+(\d{1,5}(?:\.\d+)?))?$/.exec(part);
    if (!match) return null;
    stages.push({
      moves: match[1] === undefined ? null : Number(match[1]),
      base: Number(match[2]),
      increment: Number(match[3] ?? 0),
    });
  }
  return { stages, byoyomi: 0, hourglass: false };
}

const DIGITS = '０１２３４５６７８９';

function readJapanese(text: string): TimeControl | null {
  const plain = text.replace(/[０-９]/g, (digit) => String(DIGITS.indexOf(digit)));
  const [main = '', ...rest] = plain.split(/[+＋]|秒読み|切れ(?=\d)|加算/);
  const base = secondsIn(main);
  const extra = secondsIn(rest.join(' '));
  if (base === null && extra === null) return null;
  const increments = /加算|フィッシャー|fischer/i.test(plain);
  return single(base ?? 0, increments ? (extra ?? 0) : 0, increments ? 0 : (extra ?? 0));
}

function secondsIn(text: string): number | null {
  const units = [...text.matchAll(/(\d{1,5})\s*(時間|分|秒)/g)];
  if (units.length === 0) return null;
  const factor: Record<string, number> = { 時間: 3600, 分: 60, 秒: 1 };
  return units.reduce((sum, [, count, unit]) => sum + Number(count) * factor[unit!]!, 0);
}

/** As CSA version 3: base, byoyomi and increment in seconds. */
export function writeCsaTimeControl({ stages, byoyomi }: TimeControl): string {
  return `${stages[0]!.base}+${byoyomi}+${stages[0]!.increment}`;
}

/** As KIF's free text. */
export function writeJapaneseTimeControl({ stages, byoyomi }: TimeControl): string {
  const { base, increment } = stages[0]!;
  const hours = Math.floor(base / 3600);
  const minutes = Math.floor((base % 3600) / 60);
  const seconds = base % 60;
  const main = [
    hours > 0 ? `${hours}時間` : '',
    minutes > 0 ? `${minutes}分` : '',
    seconds > 0 || base === 0 ? `${seconds}秒` : '',
  ].join('');
  if (increment > 0) return `${main} 加算${increment}秒`;
  return byoyomi > 0 ? `${main}+${byoyomi}秒` : main;
}
