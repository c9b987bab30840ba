import { NextResponse } from 'next/server';
import type * as z from 'zod';
import { Written, type Contract } from '@/contract/contract';
import { allows, type Right } from '@/contract/rights';
import { isPlainText } from '@/core/game/text';
import {
  admit,
  admitToBase,
  admitToAsk,
  askerOf,
  type Admission,
  type Asker,
} from '@/server/access';
import { libraryGrantTo } from '@/server/grants';
import { isAllowedHost, isForeign } from '@/server/origin';
import { parseId } from '@/server/ids';
import { logger } from '@/server/log';
import type { Owner } from '@/server/owner';
import { isFullDisk, isRefusedData } from '@/server/told-error';

export const refused = (status: number, code: string, detail?: unknown): NextResponse =>
  NextResponse.json({ error: code, detail }, { status });

/** An answer that ends the handling of a request from wherever it is known. */
class Refusal extends Error {
  constructor(readonly answer: Response) {
    super('refused');
  }
}

/** Ends the handling of a request. */
export function refuse(status: number, code: string, detail?: unknown): never {
  throw new Refusal(refused(status, code, detail));
}

type Handler<Params> = (request: Request, params: Params) => Promise<Response>;

const CHANGING = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

type Context<Params> = { params: Promise<Params | undefined> };

/** A route as Next takes it. Each answer tells how long it took here, in milliseconds, for whoever wants to know where the time went. */
export const route =
  <Params extends Record<string, string>>(handler: Handler<Params>) =>
  async (request: Request, context: Context<Params>): Promise<Response> => {
    const started = performance.now();
    const answer = await answered(handler, request, context);
    answer.headers.set('Server-Timing', `app;dur=${(performance.now() - started).toFixed(1)}`);
    return answer;
  };

/**
 * Requests under names that are not ours, changes that other sites ask for, and text that can't be stored are refused before the handler
 * sees them; what goes wrong in it is logged and answered without details.
 */
async function answered<Params extends Record<string, string>>(
  handler: Handler<Params>,
  request: Request,
  context: Context<Params>,
): Promise<Response> {
  try {
    if (!isAllowedHost(request.headers.get('host'))) return refused(421, 'host');
    if (CHANGING.has(request.method) && isForeign(request.headers)) return refused(403, 'foreign');
    // without any, Next gives none
    const params = (await context.params) ?? ({} as Params);
    const { searchParams } = new URL(request.url);
    if (!holdsPlainText([...searchParams, params])) return refused(400, 'text');
    return await handler(request, params);
  } catch (error) {
    if (error instanceof Refusal) return error.answer;
    logger('web').error(
      { err: error, method: request.method, path: new URL(request.url).pathname },
      'request failed',
    );
    if (isFullDisk(error)) return refused(507, 'diskFull');
    return isRefusedData(error) ? refused(400, 'malformed') : refused(500, 'internal');
  }
}

/** Whether all texts inside some data can be stored; the data may be nested however deeply. */
export function holdsPlainText(data: unknown): boolean {
  const pending = [data];
  while (pending.length > 0) {
    const next = pending.pop();
    if (typeof next === 'string') {
      if (!isPlainText(next)) return false;
    } else if (Array.isArray(next)) for (const item of next) pending.push(item);
    else if (typeof next === 'object' && next !== null)
      for (const [name, value] of Object.entries(next)) pending.push(name, value);
  }
  return true;
}

/** Bytes of one body that is read whole, and of all that are being read by this process. */
export const MOST_JSON = 32 * 1024 * 1024;
const MOST_AT_ONCE = 3 * MOST_JSON;
let beingRead = 0;

/** The whole body; no more than the limits allow is ever held. */
async function readWhole(request: Request): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  try {
    for await (const piece of bodyOf(request)) {
      size += piece.length;
      beingRead += piece.length;
      if (size > MOST_JSON) refuse(413, 'tooLarge');
      if (beingRead > MOST_AT_ONCE) refuse(503, 'busy');
      pieces.push(piece);
    }
    return Buffer.concat(pieces);
  } finally {
    beingRead -= size;
  }
}

/** The body piece by piece. */
export const bodyOf = (request: Request): AsyncIterable<Uint8Array> | Iterable<Uint8Array> =>
  (request.body as AsyncIterable<Uint8Array> | null) ?? [];

function readJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return undefined;
  }
}

/** The body as checked data; refused where it is none. */
export async function readBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const json = readJson(await readWhole(request));
  if (!holdsPlainText(json)) refuse(400, 'text');
  const parsed = schema.safeParse(json);
  if (!parsed.success) refuse(400, 'malformed', problemsOf(parsed.error));
  return parsed.data;
}

/** What is wrong with data that was sent: where, and what was expected. */
const problemsOf = (error: z.ZodError) =>
  error.issues.slice(0, 5).map(({ path, message }) => ({
    path: path.join('.').slice(0, 200),
    message: message.slice(0, 200),
  }));

/** A row's id from the address; refused as missing where it is none. */
export const readId = (text: string): number => parseId(text) ?? refuse(404, 'missing');

export type Id = { id: string };

/** What a handler knows of a request that has been looked at. */
export interface Asked<Query, Body> {
  /** Whose things it is about: of who asks, or of who has given them the game. */
  owner: Owner;
  /** Who asks; null: nobody who is signed in. */
  account: Owner | null;
  /** What they may do with what it is about. */
  right: Right;
  /** The row in the address; 0 where there is none. */
  id: number;
  query: Query;
  body: Body;
  headers: Headers;
  /** Cookies that go out with the answer. */
  setCookies(cookies: readonly string[]): void;
}

/** What a path is about, and who may do what with it. */
const ADMISSIONS = {
  games: admit,
  studies: admitToAsk('study'),
  proofs: admitToAsk('proof'),
  bases: admitToBase,
  grants: libraryGrantTo,
  preparation: admit,
};
type Admitted = Pick<Admission, 'owner' | 'right'>;

/** Who may go on with a game; refused where that is not enough. */
export async function admitted(
  asker: Asker,
  needed: Right,
  id: number,
  of: keyof typeof ADMISSIONS = 'games',
): Promise<Admitted> {
  const admission: Admitted | null = await ADMISSIONS[of](asker, id);
  // who may not even look is not told whether there is anything
  if (!admission) refuse(asker.account ? 404 : 401, asker.account ? 'missing' : 'signedOut');
  if (!allows(admission.right, needed)) refuse(403, 'right');
  return admission;
}

/** The account that asks; refused where there is none. */
export const accountIn = ({ account }: Asker): Owner => account ?? refuse(401, 'signedOut');

/** Who that is has not been looked at: to do so is a question to the database. */
type AskedByAnyone<Query, Body> = Omit<Asked<Query, Body>, 'owner' | 'account' | 'right'>;

/** A route that keeps a contract: what does not suit it is refused, and nothing is sent that is not in it. */
const keeping = <Query, Body, Answer, Gate>(
  { method, query, body, answer, status }: Contract<Query, Body, Answer>,
  /** Whether who asks may; what they send is read only then. */
  gate: (headers: Headers, id: number) => Promise<Gate>,
  handler: (asked: AskedByAnyone<Query, Body>, gate: Gate) => Promise<Answer | Written<Answer>>,
) =>
  route<Partial<Id>>(async (request, params) => {
    const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) refuse(400, 'malformed', problemsOf(asked.error));
    const id = params.id === undefined ? 0 : readId(params.id);
    const passed = await gate(request.headers, id);
    const isSent = method === 'POST' || method === 'PUT';
    const sent = isSent ? await readBody(request, body) : (undefined as Body);
    const answerHeaders = new Headers();
    const answered = await handler(
      {
        id,
        query: asked.data,
        body: sent,
        headers: request.headers,
        setCookies: (cookies) =>
          cookies.forEach((cookie) => answerHeaders.append('Set-Cookie', cookie)),
      },
      passed,
    );
    const json =
      answered instanceof Written ? answered.json : JSON.stringify(answer.parse(answered));
    // there is none where there is nothing to say
    if (json === undefined) return new NextResponse(null, { status, headers: answerHeaders });
    answerHeaders.set('Content-Type', 'application/json');
    if (json.length < WORTH_PACKING) answerHeaders.set('Cache-Control', 'no-transform');
    return new NextResponse(json, { status, headers: answerHeaders });
  });

/** Characters from which on an answer is compressed: to do so takes a quarter of a megabyte and more time than most answers. */
export const WORTH_PACKING = 16_384;

/** A route for those who have what its contract says they need: an account, or a right on the game in the address. */
export function serve<Query, Body, Answer>(
  contract: Contract<Query, Body, Answer>,
  handler: (asked: Asked<Query, Body>) => Promise<Answer | Written<Answer>>,
) {
  const { needs, path } = contract;
  if (needs === 'nothing') throw new Error(`${path} is for anyone`);
  return keeping(
    contract,
    async (headers, id) => {
      const asker = await askerOf(headers);
      const { owner, right }: Admitted =
        needs === 'account'
          ? { owner: accountIn(asker), right: 'own' }
          : await admitted(asker, needs, id, path.split('/')[2] as keyof typeof ADMISSIONS);
      return { account: asker.account, owner, right };
    },
    (asked, gate) => handler({ ...asked, ...gate }),
  );
}

/** A route for anyone, with an account or without. */
export const serveAnyone = <Query, Body, Answer>(
  contract: Contract<Query, Body, Answer>,
  handler: (asked: AskedByAnyone<Query, Body>) => Promise<Answer>,
) => keeping(contract, () => Promise.resolve(), handler);
