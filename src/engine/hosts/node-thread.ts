import { parentPort } from 'node:worker_threads';
import type { GameKind } from '@/core/game/ruleset';
import { SearchModule } from '../search-module';
import { createService } from '../serve';

const port = parentPort!;
port.on(
  'message',
  createService(
    (kind, module, table, shared) => new SearchModule(kind as GameKind, module, table, shared),
    (message) => port.postMessage(message),
  ),
);
