import { PositionError } from '@/core/game/ruleset';
import { toJson } from '@/core/game/serial';
import { emptyTree } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';

/** Stores a position, given as FEN or SFEN, as a game without moves; its id, or null where the text is none. */
export async function storePosition(text: string): Promise<number | null> {
  for (const kind of ['chess', 'shogi'] as const) {
    const ruleset = rulesetOf(kind);
    try {
      const start = ruleset.write(ruleset.start(text.replace(/^(position\s+)?(sfen|fen)\s+/, '')));
      const record = { tree: emptyTree(kind, start), tags: [], result: '*', end: null } as const;
      const answer = await fetch('/api/games', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(toJson(record)),
      });
      return answer.ok ? ((await answer.json()) as { id: number }).id : null;
    } catch (error) {
      if (!(error instanceof PositionError)) throw error;
    }
  }
  return null;
}
