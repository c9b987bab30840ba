import type { GameKind } from '@/core/game/ruleset';
import { SearchModule } from '../search-module';
import { createService, type ToThread } from '../serve';

const serve = createService(
  (kind, module, table) => new SearchModule(kind as GameKind, module, table),
  (message) => self.postMessage(message),
);
self.onmessage = (event: MessageEvent<ToThread>) => serve(event.data);
