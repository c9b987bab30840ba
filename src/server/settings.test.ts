import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, describe, expect, it, vi } from 'vitest';
import { DEFAULT_SWEEP } from '@/core/review/sweep-settings';
import { readSettings } from './settings';

const folder = mkdtempSync(join(tmpdir(), 'bektra-settings-'));
afterAll(() => rmSync(folder, { recursive: true }));

function withFile(text: string): string {
  const root = mkdtempSync(join(folder, 'root-'));
  writeFileSync(join(root, 'settings.env'), text);
  return root;
}

describe('settings', () => {
  afterEach(() => vi.unstubAllEnvs());
  const bare = (): void => {
    for (const name of Object.keys(process.env).filter((known) => known.startsWith('BEKTRA_')))
      vi.stubEnv(name, undefined);
  };

  it('are loopback, the default sweep and folders of the checkout unless told otherwise', () => {
    bare();
    const root = withFile('');
    expect(readSettings(root)).toMatchObject({
      root,
      host: '127.0.0.1',
      hosts: ['127.0.0.1', 'localhost', '[::1]', '127.0.0.1'],
      port: 3210,
      data: join(root, '.data'),
      databaseUrl: null,
      tableMegabytes: 16,
      sweep: DEFAULT_SWEEP,
      enginesFile: join(root, 'engines.json'),
      importBytes: 1024 * 1024 * 1024,
      unpackedBytes: 4096 * 1024 * 1024,
      logLevel: 'info',
    });
    expect(readSettings(root).engines).toBeGreaterThan(0);
  });

  it('come from the file, and the environment stands above it', () => {
    bare();
    const root = withFile(
      'BEKTRA_PORT=4000\nBEKTRA_ENGINES=3\nBEKTRA_HOSTS=Club.example, other.example\nBEKTRA_DATA=/var/bektra\nBEKTRA_LOG=\n',
    );
    expect(readSettings(root)).toMatchObject({
      port: 4000,
      engines: 3,
      data: '/var/bektra',
      logLevel: 'info',
    });
    expect(readSettings(root).hosts).toContain('club.example');
    expect(readSettings(root).hosts).toContain('other.example');
    vi.stubEnv('BEKTRA_PORT', '5000');
    expect(readSettings(root).port).toBe(5000);
  });

  it.each([
    ['BEKTRA_PORT=65536'],
    ['BEKTRA_PORT=-1'],
    ['BEKTRA_ENGINES=257'],
    ['BEKTRA_WEB_PROCESSES=65'],
    ['BEKTRA_ENDING_PIECES=2'],
    ['BEKTRA_ENDING_PIECES=5'],
    ['BEKTRA_WORKER_NICE=-1'],
    ['BEKTRA_WORKER_NICE=20'],
    ['BEKTRA_TABLE_MB=0'],
    ['BEKTRA_TABLE_MB=1025'],
    ['BEKTRA_SWEEP_NODES=99'],
    ['BEKTRA_IMPORT_MB=2001'],
    ['BEKTRA_UNPACKED_MB=0'],
    ['BEKTRA_UNPACKED_MB=100001'],
    ['BEKTRA_LOG=loud'],
    ['BEKTRA_HOSTS=a b'],
    ['BEKTRA_DATABASE_URL=nowhere'],
  ])('that can not be are named: %s', (line) => {
    bare();
    const [name] = line.split('=');
    expect(() => readSettings(withFile(line))).toThrow(new RegExp(`settings.env: ${name}: `));
  });

  it.each([
    ['BEKTRA_PORT=65535', { port: 65535 }],
    ['BEKTRA_ENGINES=256', { engines: 256 }],
    ['BEKTRA_WEB_PROCESSES=1', { webProcesses: 1 }],
    ['BEKTRA_ENDING_PIECES=0', { endingPieces: 0 }],
    ['BEKTRA_ENDING_PIECES=3', { endingPieces: 3 }],
    ['BEKTRA_WEB_PROCESSES=64', { webProcesses: 64 }],
    ['BEKTRA_WORKER_NICE=19', { workerNice: 19 }],
    ['BEKTRA_SWEEP_NODES=100', { sweep: { average: { nodes: 100 } } }],
    ['BEKTRA_DEMO=on', { demo: true, sweepsDemo: true }],
    ['BEKTRA_DEMO=unswept', { demo: true, sweepsDemo: false }],
    ['BEKTRA_DEMO=off', { demo: false, sweepsDemo: false }],
    ['BEKTRA_IMPORT_MB=1', { importBytes: 1024 * 1024 }],
    ['BEKTRA_UNPACKED_MB=1', { unpackedBytes: 1024 * 1024 }],
  ])('at their bounds are taken: %s', (line, expected) => {
    bare();
    expect(readSettings(withFile(line))).toMatchObject(expected);
  });
});
