import { once } from 'node:events';

export const print = (text: string): void => void process.stdout.write(`${text}\n`);
export const complain = (text: string): void => void process.stderr.write(`bektra: ${text}\n`);

/** Writes even when the reader is slow, so that memory stays bounded. */
export async function write(
  stream: NodeJS.WritableStream,
  text: string | Uint8Array,
): Promise<void> {
  if (!stream.write(text)) await once(stream, 'drain');
}
