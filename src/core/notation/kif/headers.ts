import type { Tag } from '../../game/record';
import { tagOf } from '../../game/record';
import { PositionError, type Side } from '../../game/ruleset';
import { HANDICAPS } from '../../shogi/handicaps';
import type { ShogiPosition } from '../../shogi/position';
import { readTimeControl, writeJapaneseTimeControl } from '../../game/time-control';
import { readSfen } from '../sfen/sfen';
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
    const match = /^([^：:*#&\s][^：:]{0,60})[：:](.*)$/.exec(line);
    if (!match || match[1] === '変化') return false;
    this.readPair(match[1]!.trim(), match[2]!.trim());
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
  }

  /** @throws PositionError */
  start(): ShogiPosition {
    if (this.diagram.started) return this.diagram.finish();
    const known = HANDICAPS.find(({ kif }) => kif === this.handicap);
    if (!known) throw new PositionError('kif.handicap', { found: this.handicap });
    return readSfen(known.sfen);
  }
}

/** Header lines for the tags of a game. `handicap`: whether the lower and upper side are to be named so. */
export function writeHeaders(tags: readonly Tag[], handicap: boolean): string[] {
  const names: Record<string, string> = {
    Event: '棋戦',
    Site: '場所',
    TimeControl: '持ち時間',
    Opening: '戦型',
    Black: handicap ? '下手' : '先手',
    White: handicap ? '上手' : '後手',
  };
  const lines: string[] = [];
  const start = writeStartTime(tagOf(tags, 'Date'), tagOf(tags, 'Time'));
  for (const { name, value } of tags) {
    const line = inJapanese(name, value.replace(/[\r\n]+/g, ' '));
    if (name === 'Date' && start !== null) lines.push(`開始日時：${start}`);
    else if (name !== 'Time' || start === null) lines.push(`${names[name] ?? name}：${line}`);
  }
  return lines;
}

/** A time control in another format's form is put into words. */
function inJapanese(name: string, value: string): string {
  const control =
    name === 'TimeControl' && /^[\d:+/.]+$/.test(value) ? readTimeControl(value) : null;
  return control ? writeJapaneseTimeControl(control) : value;
}
