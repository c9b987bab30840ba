import { spawn } from 'node:child_process';
import { CommandError } from '../exit';

/** Runs a program to its end and returns what it printed; @throws CommandError with what it printed on failure */
export function runCommand(
  program: string,
  args: readonly string[],
  options: { env?: NodeJS.ProcessEnv; cwd?: string } = {},
): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { ...options, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    child.stdout.on('data', (piece: Buffer) => (output += piece.toString()));
    child.stderr.on('data', (piece: Buffer) => (output += piece.toString()));
    child.on('error', (error) => reject(new CommandError(`${program}: ${error.message}`)));
    child.on('exit', (code) =>
      code === 0
        ? resolve(output)
        : reject(new CommandError(`${program} failed (${code}):\n${output.trim()}`)),
    );
  });
}
