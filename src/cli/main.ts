import { convert, legal, perft, review, runEngine } from './commands';
import { CommandError, EXIT, usageError } from './exit';
import { readArguments } from './options';

const HELP = `Bektra: review of chess and shogi games

  ./bektra start                     set up all that is needed and serve the app
  ./bektra stop                      stop it
  ./bektra dev                       serve the app for developers, with reloading
  ./bektra test                      set up and run every check
  ./bektra backup FILE               save the database to a file
  ./bektra restore FILE              put the database back to what a file holds
  ./bektra bench [NAME]              measure: core, pgn, page, desk, sweep, engine, chance, levels
  ./bektra demo                      play the demo games anew

  ./bektra legal [--json] POSITION|-            legal moves of a FEN or SFEN
  ./bektra perft POSITION DEPTH [--engine]      count the lines of a depth
  ./bektra convert IN OUT [--from F] [--to F]   pgn epd fen kif ki2 csa sfen json
  ./bektra review FILE [--depth N | --nodes N | --time MS] [--lines N] [--json]
  ./bektra engine chess|shogi                   UCI or USI on standard input and output
  ./bektra match chess|shogi A B [--games N] [--nodes N | --time MS | --depth N] [--concurrency N] [--sprt=-5,10]
                                                current, a .wasm module, or the command of a UCI or USI program
  ./bektra train chess|shogi [--time S] [--nodes N]   self-play, then a new network for the evaluation
  ./bektra tune chess|shogi [--time S] [--nodes N]    self-play, then new weights for the readable evaluation
  ./bektra suite chess|shogi [--games N] [--seed N]   make tactical positions, each verified by a deep search
`;

async function run(args: readonly string[]): Promise<number> {
  const [command, ...rest] = args;
  const { options, positionals } = readArguments(rest);
  switch (command) {
    case 'legal':
      return legal(positionals[0], options.json === true);
    case 'perft':
      return perft(positionals[0], positionals[1], options.engine === true);
    case 'convert':
      return convert(positionals[0], positionals[1], options.from, options.to);
    case 'review':
      return review(positionals[0], options);
    case 'engine':
      return runEngine(positionals[0]);
    case 'train':
      return (await import('./train')).trainNetwork(positionals[0], options);
    case 'tune':
      return (await import('./train')).tuneTerms(positionals[0], options);
    case 'self-play':
      return (await import('./self-play')).runSelfPlay(positionals[0], positionals[1], options);
    case 'suite':
      return (await import('./suite')).makeSuite(
        positionals[0],
        options.games ?? 150,
        options.seed ?? 1,
      );
    case 'match':
      return (await import('./match')).match(
        positionals[0],
        positionals[1],
        positionals[2],
        options,
      );
    case 'start':
    case 'dev':
      return (await import('./serve/serve')).serve(command);
    case 'stop':
      return (await import('./serve/serve')).stopServer();
    case 'backup':
      return (await import('./serve/backup')).backup(positionals[0]);
    case 'restore':
      return (await import('./serve/backup')).restore(positionals[0]);
    case 'demo':
      return (await import('./demo')).remakeDemo();
    case 'bench':
      return (await import('./bench/bench')).bench(positionals);
    case 'test':
      return (await import('./test-run')).runTests(positionals);
    case undefined:
    case 'help':
    case '--help':
    case '-h':
      process.stdout.write(HELP);
      return EXIT.done;
    default:
      throw usageError(`Unknown command ${command}. ./bektra help lists them.`);
  }
}

// a reader that has seen enough (`| head`) is no error
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(EXIT.done);
  throw error;
});

run(process.argv.slice(2))
  .then((code) => {
    process.exitCode = code;
  })
  .catch((error: unknown) => {
    const known = error instanceof CommandError;
    process.stderr.write(
      `bektra: ${known ? error.message : String(error instanceof Error ? error.stack : error)}\n`,
    );
    process.exitCode = known ? error.exitCode : EXIT.failed;
  });
