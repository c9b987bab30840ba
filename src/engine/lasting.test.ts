import { describe, expect, it } from 'vitest';
import { ENDLESS } from '../../tests/support/search-request';
import type { Answer } from '@/core/ask/question';
import type { Engine } from './contract';
import { lastingEngine } from './lasting';

/** Engines by number, which answer with it as their depth until they are lost. */
class Factory {
  started = 0;
  closed: number[] = [];
  lost = new Set<number>();
  canStart = true;

  readonly start = async (): Promise<Engine> => {
    if (!this.canStart) throw new Error('no memory');
    const number = ++this.started;
    return {
      search: async (): Promise<Answer> => {
        await Promise.resolve();
        if (this.lost.has(number)) throw new Error(`engine ${number} is lost`);
        return { depth: number, selectiveDepth: 0, nodes: 0, milliseconds: 0, lines: [] };
      },
      close: () => void this.closed.push(number),
    };
  };
}

const depthOf = async (engine: Engine): Promise<number> => (await engine.search(ENDLESS)).depth;

describe('an engine that lasts', () => {
  it('does not start where the first engine does not', async () => {
    const factory = new Factory();
    factory.canStart = false;
    await expect(lastingEngine(factory.start)).rejects.toThrow('no memory');
  });

  it('stays with one engine while all goes well', async () => {
    const factory = new Factory();
    const engine = await lastingEngine(factory.start);
    expect([await depthOf(engine), await depthOf(engine)]).toEqual([1, 1]);
    expect(factory.started).toBe(1);
  });

  it('does what ran and what waited again on one other when it is lost', async () => {
    const factory = new Factory();
    const engine = await lastingEngine(factory.start);
    factory.lost.add(1);
    expect(await Promise.all([depthOf(engine), depthOf(engine)])).toEqual([2, 2]);
    expect(factory.started).toBe(2);
    expect(factory.closed).toContain(1);
    expect(factory.closed).not.toContain(2);
  });

  it('fails a search that the second engine is lost with too, and does the next on a third', async () => {
    const factory = new Factory();
    const engine = await lastingEngine(factory.start);
    factory.lost.add(1).add(2);
    await expect(engine.search(ENDLESS)).rejects.toThrow('engine 2 is lost');
    expect(await depthOf(engine)).toBe(3);
  });

  it('tries again to start one when it is asked again', async () => {
    const factory = new Factory();
    const engine = await lastingEngine(factory.start);
    factory.lost.add(1);
    factory.canStart = false;
    await expect(engine.search(ENDLESS)).rejects.toThrow('no memory');
    factory.canStart = true;
    expect(await depthOf(engine)).toBe(2);
  });

  it('starts none any more once it is closed', async () => {
    const factory = new Factory();
    const engine = await lastingEngine(factory.start);
    engine.close();
    await expect(engine.search(ENDLESS)).rejects.toThrow('engine closed');
    expect(factory).toMatchObject({ started: 1, closed: [1] });
  });
});
