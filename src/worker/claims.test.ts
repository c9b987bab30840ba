import { describe, expect, it } from 'vitest';
import { CalledOff, type Answer } from '@/core/ask/question';
import { Claims } from './claims';
import { inTurn } from './session';

const ANSWER: Answer = { depth: 9, nodes: 100, milliseconds: 5, lines: [] };

/** Locks of a database that several sessions share. */
function database() {
  const held = new Map<string, number>();
  const session = (own: number) => ({
    query: (text: string, [name]: string[]) => {
      const isFree = !held.has(name!) || held.get(name!) === own;
      if (text.includes('unlock')) held.delete(name!);
      else if (isFree) held.set(name!, own);
      return Promise.resolve({ rows: [{ ours: isFree }] });
    },
  });
  return { held, claims: (own: number) => new Claims(session(own) as never) };
}

/** A store of answers that says how often one was searched. */
function searching() {
  let stored: Answer | null = null;
  let searches = 0;
  const open: ((end: 'found' | 'called off') => void)[] = [];
  return {
    open,
    get searches() {
      return searches;
    },
    known: () => Promise.resolve(stored),
    search: () =>
      new Promise<Answer>((resolve, reject) => {
        searches++;
        open.push((end) => {
          if (end === 'called off') return reject(new CalledOff());
          stored = ANSWER;
          resolve(ANSWER);
        });
      }),
  };
}

const later = (milliseconds = 5): Promise<void> =>
  new Promise((next) => setTimeout(next, milliseconds));
const never = new AbortController().signal;

describe('a question that several ask at once', () => {
  it('is searched once in a process, and answers all of them', async () => {
    const { held, claims } = database();
    const one = claims(1);
    const store = searching();
    const answers = [1, 2, 3].map(() => one.answer('q', store.known, store.search, never));
    await later();
    store.open[0]!('found');
    expect(await Promise.all(answers)).toEqual([ANSWER, ANSWER, ANSWER]);
    expect(store.searches).toBe(1);
    expect(held.size).toBe(0);
  });

  it('is searched once by several processes', async () => {
    const { held, claims } = database();
    const store = searching();
    const [first, second] = [claims(1), claims(2)].map((one) =>
      one.answer('q', store.known, store.search, never),
    );
    await later();
    store.open[0]!('found');
    expect(await Promise.all([first, second])).toEqual([ANSWER, ANSWER]);
    expect(store.searches).toBe(1);
    await later();
    expect(held.size).toBe(0);
  });

  it('is searched by the next where whoever searched it was called off', async () => {
    const { claims } = database();
    const store = searching();
    const own = claims(1);
    const first = own.answer('q', store.known, store.search, never);
    const others = [own, claims(2)].map((one) => one.answer('q', store.known, store.search, never));
    await later();
    store.open[0]!('called off');
    await expect(first).rejects.toBeInstanceOf(CalledOff);
    await later(250);
    expect(store.searches).toBe(2);
    store.open[1]!('found');
    expect(await Promise.all(others)).toEqual([ANSWER, ANSWER]);
    expect(store.searches).toBe(2);
  });

  it('is waited for no longer than it is wanted', async () => {
    const { claims } = database();
    const store = searching();
    void claims(1).answer('q', store.known, store.search, never);
    const controller = new AbortController();
    const waiting = claims(2).answer('q', store.known, store.search, controller.signal);
    await later();
    controller.abort();
    await expect(waiting).rejects.toBeInstanceOf(CalledOff);
    expect(store.searches).toBe(1);
  });

  it('does not keep another from being searched', async () => {
    const { claims } = database();
    const store = searching();
    const own = claims(1);
    void own.answer('q', store.known, store.search, never);
    void own.answer('other', () => Promise.resolve(null), store.search, never);
    await later();
    expect(store.searches).toBe(2);
  });
});

describe('one connection that many ask', () => {
  it('is asked one question after the other, also behind one that is refused', async () => {
    let running = 0;
    let most = 0;
    const query = async (text: string) => {
      most = Math.max(most, ++running);
      await later(2);
      running--;
      if (text === 'wrong') throw new Error('refused');
      return { rows: [{ text }] };
    };
    const session = inTurn({ query } as never);
    const asked = ['one', 'wrong', 'two'].map((text) => session.query(text));
    expect((await asked[0]!).rows).toEqual([{ text: 'one' }]);
    await expect(asked[1]).rejects.toThrow('refused');
    expect((await asked[2]!).rows).toEqual([{ text: 'two' }]);
    expect(most).toBe(1);
  });
});
