import { engineVersion, startEngine } from '@/engine/hosts/node';
import { talk, type EngineOptions } from '@/engine/stdio';
import { ENGINE_FILES } from './engine-files';
import { EXIT, usageError } from './exit';

/** `engine`: UCI or USI on standard input and output. */
export async function runEngine(game: string | undefined): Promise<number> {
  if (game !== 'chess' && game !== 'shogi') throw usageError('Use: ./bektra engine chess|shogi');
  const version = await engineVersion(ENGINE_FILES, game);
  const open = (options: EngineOptions) => startEngine(ENGINE_FILES, { ...options, kinds: [game] });
  await talk(game, open, process.stdin, process.stdout, version);
  // a host that has said `quit` may keep its end of the pipe open
  process.stdout.write('', () => process.exit(EXIT.done));
  return EXIT.done;
}
