import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect, it } from 'vitest';
import { mateScore } from '@/core/game/score';
import { EXACT_DEPTH } from '@/core/review/evaluation';
import { shogi } from '@/core/shogi/ruleset';
import { startEngine } from './node';

const MATE_OF_NINE = '9/4n1k2/5+p1R1/4+B+l1+l1/5+Ll2/9/9/9/9 b RSb4g3s3n17p 1';

it('an engine whose thread ends is not waited for', async () => {
  const thread = join(mkdtempSync(join(tmpdir(), 'bektra-thread-')), 'thread.mjs');
  writeFileSync(thread, 'process.exit(3);\n');
  const starting = startEngine({ modules: resolve('dist/engine'), thread }, { kinds: ['chess'] });
  await expect(starting).rejects.toThrow('engine thread ended with 3');
});

it('a mate by check after check is proved beside the search, or none is told', async () => {
  const engine = await startEngine(
    { modules: resolve('dist/engine'), thread: resolve('dist/engine-thread.mjs') },
    { kinds: ['shogi'] },
  );
  const ask = (position: string, nodes = 30_000, signal?: AbortSignal) =>
    engine.search(
      {
        kind: 'shogi',
        root: { position, moveCount: 0, repeated: [] },
        budget: { nodes },
        lines: 1,
        checks: true,
        fresh: true,
      },
      signal ? { signal } : {},
    );
  try {
    const given = await ask(MATE_OF_NINE);
    expect(given).toMatchObject({ depth: EXACT_DEPTH, lines: [{ score: mateScore(9, 0) }] });
    expect(given.lines[0]!.moves).toHaveLength(9);
    // it depends on nothing that was asked before
    const start = await ask(shogi.write(shogi.start()));
    expect(start).toMatchObject({ depth: 0, lines: [] });
    expect(await ask(MATE_OF_NINE)).toMatchObject({ nodes: given.nodes, lines: given.lines });
    // in check, the mate that is suffered
    const after = shogi.play(
      shogi.start(MATE_OF_NINE),
      shogi.parseCode(given.lines[0]!.moves[0]!)!,
    );
    expect(await ask(shogi.write(after))).toMatchObject({ lines: [{ score: mateScore(8, 0) }] });
    expect(await ask(MATE_OF_NINE, 5)).toMatchObject({ depth: 0, lines: [] });
    expect((await ask(MATE_OF_NINE, 1e9, AbortSignal.abort())).lines).toEqual([]);
  } finally {
    engine.close();
  }
});
