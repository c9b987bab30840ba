import { CalledOff, type Answer } from '@/core/ask/question';
import type { Session } from './session';

/** How long what another worker searches is waited for until it is looked at again. */
const AGAIN_MS = 200;

/**
 * Sees to it that no question is being searched twice at once, by whatever jobs and workers: each is claimed by an advisory lock of one
 * session, which the database drops when the process is gone.
 */
export class Claims {
  private readonly underWay = new Map<string, Promise<Answer>>();

  constructor(private readonly session: Session) {}

  /**
   * The answer to a question, by whoever searches it.
   * @param name of the question with its position, the same in all workers
   * @param known what is stored of it
   * @param search finds the answer and stores it
   */
  async answer(
    name: string,
    known: () => Promise<Answer | null>,
    search: () => Promise<Answer>,
    signal: AbortSignal,
  ): Promise<Answer> {
    for (;;) {
      const before = this.underWay.get(name);
      if (!before) break;
      try {
        return await before;
      } catch {
        // whoever searched it was called off, or failed: it is for others to do
      }
    }
    const asking = this.searchAlone(name, known, search, signal).finally(() =>
      this.underWay.delete(name),
    );
    this.underWay.set(name, asking);
    return asking;
  }

  private async searchAlone(
    name: string,
    known: () => Promise<Answer | null>,
    search: () => Promise<Answer>,
    signal: AbortSignal,
  ): Promise<Answer> {
    while (!(await this.lock(name))) {
      await new Promise((later) => setTimeout(later, AGAIN_MS));
      if (signal.aborted) throw new CalledOff();
    }
    try {
      return (await known()) ?? (await search());
    } finally {
      await this.session.query('select pg_advisory_unlock(hashtextextended($1, 1))', [name]);
    }
  }

  private async lock(name: string): Promise<boolean> {
    const { rows } = await this.session.query<{ ours: boolean }>(
      'select pg_try_advisory_lock(hashtextextended($1, 1)) as ours',
      [name],
    );
    return rows[0]!.ours;
  }
}
