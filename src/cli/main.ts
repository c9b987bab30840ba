import { COMMANDS, HELP, usageOf } from './command-list';
import { CommandError, EXIT, usageError } from './exit';
import { readArguments } from './options';

async function run([name, ...rest]: readonly string[]): Promise<number> {
  if (name === undefined || name === 'help' || name === '--help' || name === '-h') {
    process.stdout.write(HELP);
    return EXIT.done;
  }
  if (!Object.hasOwn(COMMANDS, name))
    throw usageError(`Unknown command ${name}. ./bektra help lists them.`);
  const { options, positionals } = await readArguments(rest);
  if (options.help) {
    process.stdout.write(usageOf(name));
    return EXIT.done;
  }
  return COMMANDS[name]!.run(positionals, options);
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
