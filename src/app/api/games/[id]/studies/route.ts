import * as contract from '@/contract/studies';
import { searchSettingsSchema } from '@/core/review/sweep-settings';
import { settings } from '@/server/settings';
import { listStudies, startStudy } from '@/server/studies';
import { refuse, serve } from '../../../guard';

const STATUS = { missing: 404, unfit: 422, engine: 403, tooMany: 429 } as const;

export const GET = serve(contract.listStudies, ({ owner, id }) => listStudies(owner, id));

/** Queues a search of one position of the game. */
export const POST = serve(contract.startStudy, async ({ owner, account, id, body }) => {
  const { lines, seconds, ...task } = body;
  const limit =
    seconds === undefined ? { nodes: settings().doubtNodes } : { milliseconds: seconds * 1000 };
  const started = await startStudy(owner, account!, id, {
    ...task,
    settings: searchSettingsSchema.parse({ ...limit, lines }),
  });
  if ('refused' in started) refuse(STATUS[started.refused], started.refused);
  return started.study;
});
