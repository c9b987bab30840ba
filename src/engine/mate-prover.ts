import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { adapterOf, type BoardAdapter, type BoardExports } from './board-adapter';

/** What the compiled prover exports; see src/engine/mates/index.ts. */
interface MateExports extends BoardExports {
  undoMove(): void;
  reserve(bytes: number): number;
  useMateTable(address: number, bytes: number): void;
  forgetMates(): void;
  growOlder(): void;
  setMateRules(quiet: boolean, everyDefence: boolean): void;
  prove(plies: number, nodes: number): number;
  knownMate(attacks: boolean): number;
  isSafeForEver(attacks: boolean): number;
  isMated(): number;
  listMoves(attacks: boolean): number;
  positionsExpanded(): number;
}

/** Of the table, taken up as it fills. */
const TABLE_BYTES = 2 ** 25;

export interface MateRules {
  /** The attacker may also move without check. */
  quiet: boolean;
  /** Pieces put between to no purpose count as defences, against the custom of mate problems. */
  everyDefence: boolean;
}

/** One instance of the compiled prover of mates of a game. Its calls block until they are done. */
export class MateProver {
  /** Positions expanded in all. */
  nodes = 0;
  private readonly exports: MateExports;
  private readonly adapter: BoardAdapter;

  constructor(
    readonly kind: GameKind,
    module: WebAssembly.Module,
  ) {
    this.adapter = adapterOf(kind);
    const instance = new WebAssembly.Instance(module, {
      env: {
        abort: (): never => {
          throw new Error('the prover of mates stopped');
        },
      },
    });
    this.exports = instance.exports as unknown as MateExports;
    this.exports.useMateTable(this.exports.reserve(TABLE_BYTES), TABLE_BYTES);
  }

  /** Begins with a position; what is known of mates stays as long as the rules do. */
  setUp(position: string): void {
    this.adapter.setUp(this.exports, position);
    this.exports.growOlder();
  }

  setRules({ quiet, everyDefence }: MateRules): void {
    this.exports.forgetMates();
    this.exports.setMateRules(quiet, everyDefence);
    this.nodes = 0;
  }

  /**
   * Whether there is a mate within so many plies: odd for one that the side to move gives, even for one that it is given.
   * Open where it takes more positions than allowed; asked again, it goes on.
   */
  prove(plies: number, nodes: number): 'mate' | 'none' | 'open' {
    const said = this.exports.prove(plies, nodes);
    this.nodes += this.exports.positionsExpanded();
    return said > 0 ? 'mate' : said < 0 ? 'none' : 'open';
  }

  /** Plies of the shortest mate that was proved of the position now, of an attacker or a defender to move. */
  knownMate(attacks: boolean): number {
    return this.exports.knownMate(attacks);
  }

  /** Whether it was proved that there is no mate, however long. */
  isSafeForEver(attacks: boolean): boolean {
    return this.exports.isSafeForEver(attacks) !== 0;
  }

  /** Whether the side to move is mated; pieces put between to no purpose don't count. */
  get isMated(): boolean {
    return this.exports.isMated() !== 0;
  }

  /** Moves of the position now, in UCI or USI: those that the attacker has, or all. */
  moves(attacks: boolean): string[] {
    const { code } = rulesetOf(this.kind);
    return Array.from({ length: this.exports.listMoves(attacks) }, (_, place) =>
      code(this.adapter.fromSearch(this.exports.listedMove(place))),
    );
  }

  /** Plays a legal move in UCI or USI. */
  play(move: string): void {
    const parsed = rulesetOf(this.kind).parseCode(move);
    if (parsed === null || !this.exports.makeMove(this.adapter.toSearch(parsed)))
      throw new Error(`${move} is no legal move`);
  }

  takeBack(): void {
    this.exports.undoMove();
  }
}
