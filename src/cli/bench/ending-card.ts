import { chess } from '@/core/chess/ruleset';
import { askEnding } from '@/contract/endings';
import { drawnEndings } from './ending-positions';
import { report } from './figures';
import { asking, times, toldTimes, withVisitor, type Times } from './server';
import { watchStolen } from './stolen';

const ASKED = 2000;

/** What the ending card asks of the running server: the results of a position and of all moves in it. */
export async function benchEndingCard(): Promise<void> {
  await withVisitor(async (visitor) => {
    const ask = asking(visitor);
    const positions = drawnEndings(ASKED).map((position) => chess.write(position));
    for (const round of ['asked for the first time', 'asked once more']) {
      const found: Times[] = [];
      const stolen = watchStolen();
      for (const position of positions)
        found.push(
          await times(() => ask(`${askEnding.path}?${new URLSearchParams({ position })}`)),
        );
      report(`endings with all their moves, ${round}`, `${toldTimes(found)}; ${stolen()}`);
    }
  });
}
