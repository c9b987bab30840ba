import type { GameKind } from '@/core/game/ruleset';
import { SearchModule } from '../search-module';
import { createService, type ToThread } from '../serve';

const serve = createService(
  (kind, module, table, shared) => new SearchModule(kind as GameKind, module, table, shared),
  (message) => self.postMessage(message),
);
self.onmessage = (event: MessageEvent<ToThread>) => serve(event.data);
