/** Exit codes: 0 done, 1 the input has errors, 2 wrong use, 3 something outside failed. */
export const EXIT = { done: 0, problems: 1, usage: 2, failed: 3 } as const;

/** An error whose message is all that a person needs to see. */
export class CommandError extends Error {
  constructor(
    message: string,
    readonly exitCode: number = EXIT.failed,
  ) {
    super(message);
  }
}

export const usageError = (message: string): CommandError => new CommandError(message, EXIT.usage);
