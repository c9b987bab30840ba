// An engine that says what it was told to: `fake-engine.mjs KIND SCRIPT`, the script a JSON list of what it answers to `go`.
import { createInterface } from 'node:readline';

const [kind, script] = process.argv.slice(2);
const words = kind === 'chess' ? { hello: 'uci', ok: 'uciok' } : { hello: 'usi', ok: 'usiok' };
const { options = [], answers } = JSON.parse(script);
const say = (line) => process.stdout.write(`${line}\n`);

createInterface({ input: process.stdin }).on('line', (line) => {
  if (line === words.hello) [...options, words.ok].forEach(say);
  else if (line === 'isready') say('readyok');
  else if (line.startsWith('go')) answers.forEach(say);
  else if (line === 'quit') process.exit();
});
