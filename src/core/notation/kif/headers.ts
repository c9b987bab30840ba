import type { Tag } from '../../game/record';
import { tagOf } from '../../game/record';
import { PositionError, type Side } from '../../game/ruleset';
import { HANDICAPS } from '../../shogi/handicaps';
import type { ShogiPosition } from '../../shogi/position';
import { LIMITS, limitProblem, ReadError } from '../../game/problem';
import { trimSpaces } from '../../game/text';
import { readTimeControl, writeJapaneseTimeControl } from '../../game/time-control';
import { readSfen } from '../../shogi/sfen';
import { readStartTime, writeStartTime } from '../start-time';
import { DiagramReader } from './board-diagram';

/** KIF's own names of tags. */
const TAG_NAMES: Readonly<Record<string, string>> = {
  棋戦: 'Event',
  場所: 'Site',
  持ち時間: 'TimeControl',
  先手: 'Black',
  下手: 'Black',
  後手: 'White',
  上手: 'White',
  戦型: 'Opening',
};

/** The caller knows the line. */
const NOWHERE = { line: 0, column: 1 };

/** Collects the header lines that KIF and KI2 share. */
export class HeaderReader {
  readonly tags: Tag[] = [];
  private handicap = '平手';
  private readonly diagram = new DiagramReader();

  /**
   * Reads one line; false where it is no header line.
   * @throws PositionError when a handicap or a diagram can't be understood
   */
  read(line: string): boolean {
    if (this.diagram.readRow(line) || /^\+-+\+/.test(line) || /^\s*９\s+８/.test(line)) return true;
    const turn = /^(先手|下手|後手|上手)番/.exec(line);
    if (turn) {
      this.diagram.setSide(turn[1] === '先手' || turn[1] === '下手' ? 0 : 1);
      return true;
    }
    const match = /^([^：:*#&\s][^：:]{0,60})[：:]([^]*)$/.exec(line);
    if (!match || match[1] === '変化') return false;
    this.readPair(match[1]!.trim(), trimSpaces(match[2]!));
    return true;
  }

  private readPair(name: string, value: string): void {
    const hand = /^(先手|下手|後手|上手)の持駒$/.exec(name);
    if (hand) {
      const side: Side = hand[1] === '先手' || hand[1] === '下手' ? 0 : 1;
      this.diagram.readHand(side, value);
    } else if (name === '手合割') this.handicap = value.trim();
    else if (name === '開始日時') this.tags.push(...(readStartTime(value) ?? [{ name, value }]));
    else this.tags.push({ name: TAG_NAMES[name] ?? name, value });
    if (this.tags.length > LIMITS.tags)
      throw new ReadError({ ...limitProblem('tags'), place: NOWHERE });
  }

  /** @throws PositionError */
  start(): ShogiPosition {
    if (this.diagram.started) return this.diagram.finish();
    const known = HANDICAPS.find(({ kif }) => kif === this.handicap);
    if (!known) throw new PositionError('kif.handicap', { found: this.handicap });
    return readSfen(known.start);
  }
}

/**
 * Header lines for the tags of a game, and the tags that no header line can hold.
 * @param handicap whether the lower and upper side are to be named so
 */
export function writeHeaders(
  tags: readonly Tag[],
  handicap: boolean,
): { lines: string[]; others: Tag[] } {
  const names: Record<string, string> = {
    Event: '棋戦',
    Site: '場所',
    TimeControl: '持ち時間',
    Opening: '戦型',
    Black: handicap ? '下手' : '先手',
    White: handicap ? '上手' : '後手',
  };
  const lines: string[] = [];
  const others: Tag[] = [];
  const start = writeStartTime(tagOf(tags, 'Date'), tagOf(tags, 'Time'));
  for (const tag of tags) {
    const { name, value } = tag;
    if (name === 'Time' && start !== null) continue;
    const line =
      name === 'Date' && start !== null
        ? `開始日時：${start}`
        : `${names[name] ?? name}：${inJapanese(name, value)}`;
    if (holds(line, name)) lines.push(line);
    else others.push(tag);
  }
  return { lines, others };
}

/** Whether the line is read as a header of that name: the words of a tag may look like anything. */
function holds(line: string, name: string): boolean {
  if (/[\r\n]/.test(line) || line !== trimSpaces(line)) return false;
  if (/^手数-|^まで|^変化|^\s*\d|^[▲△▽▼☗☖]/.test(line)) return false;
  try {
    const reader = new HeaderReader();
    const [first, ...more] = reader.read(line) ? reader.tags : [];
    const isWhole = first?.value === line.slice(line.search(/[：:]/) + 1);
    return first?.name === name && (name === 'Date' || (more.length === 0 && isWhole));
  } catch {
    return false;
  }
}

/** A time control in another format's form is put into words. */
function inJapanese(name: string, value: string): string {
  const control =
    name === 'TimeControl' && /^[\d:+/.]+$/.test(value) ? readTimeControl(value) : null;
  return control ? writeJapaneseTimeControl(control) : value;
}
