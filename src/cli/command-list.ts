import type { Options } from './options';

interface Command {
  /** How it is used and what it does, a line or more. */
  usage: readonly string[];
  /** Loads what it needs, and nothing else. */
  run(words: readonly string[], options: Options): Promise<number>;
}

const serve = (mode: 'start' | 'dev') => async () => (await import('./serve/serve')).serve(mode);

/** All commands, in the order in which the help lists them. */
export const COMMANDS: Readonly<Record<string, Command>> = {
  start: {
    usage: ['start                     set up all that is needed and serve the app'],
    run: serve('start'),
  },
  stop: {
    usage: ['stop                      stop it'],
    run: async () => (await import('./serve/serve')).stopServer(),
  },
  worker: {
    usage: [
      'worker                    run one more worker, here or on another machine (BEKTRA_DATABASE_URL)',
    ],
    run: async () => (await import('./serve/extra-worker')).runExtraWorker(),
  },
  dev: {
    usage: ['dev                       serve the app for developers, with reloading'],
    run: serve('dev'),
  },
  test: {
    usage: [
      'test [PART ...]           set up and run every check, or those of a part: checks, unit, browser',
    ],
    run: async (words) => (await import('./test-run')).runTests(words),
  },
  account: {
    usage: ['account make|reset NAME   make an account, or give one a new password, and print it'],
    run: async ([action, name]) => (await import('./account')).account(action, name),
  },
  backup: {
    usage: ['backup FILE               save the database to a file'],
    run: async ([file]) => (await import('./serve/backup')).backup(file),
  },
  restore: {
    usage: [
      'restore FILE [--replace]  put the database back to what a file holds, in place of what is there',
    ],
    run: async ([file], { replace }) =>
      (await import('./serve/backup')).restore(file, replace === true),
  },
  bench: {
    usage: [
      'bench [NAME ...]          measure: core, pgn, base, library, page, desk, sweep, queue, endings, ending-card, five-pieces, proofs, mates, verdicts, engine, quiet, chance, levels, faults, decided, crashes, mutants',
    ],
    run: async (words) => (await import('./bench/bench')).bench(words),
  },
  demo: {
    usage: [
      'demo [bases|sweeps [FILE]]  play the demo games anew, or those of the demo bases, or go over some of these',
    ],
    run: async ([what, file]) => (await import('./demo')).remakeDemo(what, file),
  },
  base: {
    usage: [
      'base build NAME FILE ...  take games into a base, which is made where there is none',
      'base ask NAME POSITION|- [--json]    what was played at a FEN or SFEN (--account NAME: whose base; else the demo account)',
    ],
    run: async (words, { account, json }) =>
      (await import('./base')).base(words, { account, json: json === true }),
  },
  legal: {
    usage: ['legal [--json] POSITION|-            legal moves of a FEN or SFEN'],
    run: async ([position], { json }) => (await import('./legal')).legal(position, json === true),
  },
  perft: {
    usage: ['perft POSITION DEPTH [--engine]      count the lines of a depth'],
    run: async ([position, depth], { engine }) =>
      (await import('./perft')).perft(position, depth, engine === true),
  },
  convert: {
    usage: ['convert IN OUT [--from F] [--to F]   pgn epd fen kif ki2 csa sfen json'],
    run: async ([source, target], { from, to }) =>
      (await import('./convert')).convert(source, target, from, to),
  },
  review: {
    usage: [
      'review FILE [--preset quick|standard|deep | --nodes N | --time MS | --depth N] [--lines N]',
      '            [--jobs N] [--json [--out FILE [--resume]]]   every game of a file gone over',
    ],
    run: async ([file], options) => (await import('./review')).review(file, options),
  },
  engine: {
    usage: ['engine chess|shogi                   UCI or USI on standard input and output'],
    run: async ([game]) => (await import('./engine')).runEngine(game),
  },
  match: {
    usage: [
      'match chess|shogi A B [--games N] [--nodes N | --time MS | --depth N] [--concurrency N] [--sprt=-5,10]',
      '                                     current, a .wasm module, or the command of a UCI or USI program',
    ],
    run: async ([game, a, b], options) => (await import('./match')).match(game, a, b, options),
  },
  endings: {
    usage: [
      'endings build [--pieces 3|4]        make the ending tables that are not there',
      'endings pack --out FILE             their results alone, as they ship with the app',
    ],
    run: async ([action], options) => (await import('./endings')).endings(action, options),
  },
  ending: {
    usage: [
      'ending POSITION|- [--json] [--prove]  exact result of an ending, and of each of its moves; solved where no table has it',
    ],
    run: async ([position], options) => (await import('./endings')).ending(position, options),
  },
  mate: {
    usage: [
      'mate POSITION|- [--plies N] [--nodes N] [--json]   shortest mate that the side to move can force',
    ],
    run: async ([position], options) => (await import('./mate')).mate(position, options),
  },
  compose: {
    usage: ['compose PLIES [--seed N]            a mate problem of shogi, made up'],
    run: async ([plies], options) => (await import('./mate')).compose(plies, options),
  },
  train: {
    usage: [
      'train chess|shogi [--time S] [--nodes N]   self-play, then the network of the evaluation trained further',
      '      [--fresh] [--epochs N] [--rate R] [--decay D] [--trust T] [--out FILE]',
    ],
    run: async ([game], options) => (await import('./train')).trainNetwork(game, options),
  },
  tune: {
    usage: [
      'tune chess|shogi [--time S] [--nodes N]    self-play, then new weights for the readable evaluation',
    ],
    run: async ([game], options) => (await import('./train')).tuneTerms(game, options),
  },
  margins: {
    usage: [
      'margins chess|shogi FILE [--games N] [--nodes N] [--seed N] [--time S]   the search tuned by games of it against itself',
    ],
    run: async ([game, file], options) =>
      (await import('./margins')).tuneMargins(game, file, options),
  },
  'self-play': {
    usage: ['self-play chess|shogi FILE [--time S] [--nodes N]   positions to learn from'],
    run: async ([game, file], options) =>
      (await import('./self-play')).runSelfPlay(game, file, options),
  },
  suite: {
    usage: [
      'suite chess|shogi [--quiet] [--games N] [--seed N]   make tactical positions, each verified by a deep search,',
      '                                     or quiet ones, each agreed by long searches of two engines',
    ],
    run: async ([game], { games = 150, seed = 1, quiet = false }) =>
      (await import('./suite')).makeSuite(game, quiet ? 'quiet' : 'tactics', games, seed),
  },
  references: {
    usage: [
      'references chess|shogi FOLDER [--games N] [--nodes N] [--seed N] [--time S]',
      '                                     play games to measure verdicts by, and look over them with long searches',
    ],
    run: async ([game, folder], options) =>
      (await import('./references')).makeReferences(game, folder, options),
  },
};

const lines = (usage: readonly string[]): string =>
  usage.map((line) => (line.startsWith(' ') ? `  ${line}\n` : `  ./bektra ${line}\n`)).join('');

export const usageOf = (name: string): string => lines(COMMANDS[name]!.usage);

export const HELP = `Bektra: review of chess and shogi games

${Object.values(COMMANDS)
  .map(({ usage }) => lines(usage))
  .join('')}`;
