import { formatKind, FORMATS, readGames, writeGame } from '@/core/notation/formats';
import { isRead } from '@/core/notation/reading';
import { bestOf, report } from './figures';
import { HOSTILE_FILES } from './hostile-files';
import { DEMO_FILES, mutated } from './mutated-files';

const LENGTH = 500_000;
const MUTATIONS = 10_000;

/** What is asked of the reader by files made to be slow or damaged. */
export function benchFaults(): void {
  benchHostile();
  benchMutated();
}

/** How the time to read and write a hostile file grows when it is four times as long: 4 where it is in proportion. */
function benchHostile(): void {
  let worst = { ratio: 0, name: '' };
  for (const { name, format, text } of HOSTILE_FILES) {
    const seconds = (length: number): number => {
      const file = text(length);
      return bestOf(2, () => {
        for (const reading of readGames(file, format))
          if (isRead(reading)) writeGame(reading.record, format);
      });
    };
    const [short, long] = [seconds(LENGTH), seconds(4 * LENGTH)];
    // below a millisecond there is nothing to compare
    const ratio = long / Math.max(short, 0.001);
    if (ratio > worst.ratio) worst = { ratio, name: `${format}, ${name}` };
    report(`${format}, ${name}`, `${(1000 * long).toFixed(0)} ms, × ${ratio.toFixed(1)}`);
  }
  report('worst growth for four times the length', `× ${worst.ratio.toFixed(1)} (${worst.name})`);
}

function benchMutated(): void {
  let read = 0;
  let refused = 0;
  let broken = 0;
  for (let seed = 0; seed < MUTATIONS; seed++) {
    const { text, format } = mutated(DEMO_FILES[seed % DEMO_FILES.length]!, seed);
    try {
      for (const reading of readGames(text, format)) {
        if (!isRead(reading)) refused++;
        else {
          read++;
          for (const other of FORMATS)
            if (formatKind(other) === reading.record.tree.kind) writeGame(reading.record, other);
        }
      }
    } catch (error) {
      broken++;
      report(`seed ${seed}, ${format}`, String(error).slice(0, 100));
    }
  }
  report(
    `${MUTATIONS} damaged files`,
    `${read} games read, ${refused} refused, ${broken} exceptions`,
  );
}
