import { perft } from '@/core/game/perft';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { readFen } from '@/core/chess/fen';
import { readSfen } from '@/core/shogi/sfen';
import { rulesetOf } from '@/core/rulesets';
import { loadSearch } from '@/engine/hosts/node';
import { ENGINE_FILES } from '../engine-files';
import { bestOf, perSecond, report } from './figures';

const DEPTHS: Record<GameKind, number> = { chess: 5, shogi: 4 };

/** Leaf counts of the start position, every last move played and taken back, by the core and by the search. */
export async function benchCore(): Promise<void> {
  for (const kind of GAME_KINDS) {
    const depth = DEPTHS[kind];
    const ruleset = rulesetOf(kind);
    const start = kind === 'chess' ? readFen(rulesetOf(kind).startText) : readSfen('startpos');
    const count = perft(start, depth);
    const core = bestOf(5, () => void perft(start, depth));
    report(`perft ${kind} depth ${depth}, rules core (TypeScript)`, perSecond(count, core));
    const search = await loadSearch(ENGINE_FILES, kind);
    const position = rulesetOf(kind).startText;
    const wasm = bestOf(5, () => void search.perft(position, depth));
    report(`perft ${kind} depth ${depth}, search (WebAssembly)`, perSecond(count, wasm));
    report(`  ratio`, (core / wasm).toFixed(2));
    const host = { shouldStop: () => false, now: () => performance.now() };
    const root = ruleset.searchRoot(ruleset.start(), []);
    const info = search.search({ kind, root, budget: { nodes: 3e6 }, lines: 1, fresh: true }, host);
    report(`search ${kind}, one core`, perSecond(info.nodes, info.milliseconds / 1000));
  }
}
