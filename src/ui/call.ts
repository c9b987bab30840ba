import { refusalSchema, type Contract } from '@/contract/contract';

/** The server has looked at what it was asked, and will not do it. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly detail: unknown,
  ) {
    super(`${status} ${code}`);
    this.name = 'Refused';
  }

  /** However often it is asked. */
  get isFinal(): boolean {
    return [400, 403, 404, 413, 422].includes(this.status);
  }
}

/** Why the server refuses. @throws where what it answers says nothing of it */
export async function refusalOf(answer: Response): Promise<Refused> {
  const { error, detail } = refusalSchema.parse(await answer.json());
  return new Refused(answer.status, error, detail);
}

/** What there is to tell people of a refusal. */
export const wordsOf = ({ detail }: Refused): string => (typeof detail === 'string' ? detail : '');

interface CallParts<Query, Body> {
  /** The row in the path. */
  id?: number;
  query?: Partial<Query>;
  body?: Body;
  /** It goes out also while the page is being left. */
  keepalive?: boolean;
}

/** Asks the server. @throws Refused; another error where it can't be reached or answers something else */
export async function call<Query, Body, Answer>(
  { method, path, answer }: Contract<Query, Body, Answer>,
  { id, query, body, keepalive = false }: CallParts<Query, Body> = {},
): Promise<Answer> {
  const search = new URLSearchParams(
    Object.entries(query ?? {})
      .filter(([, value]) => value !== undefined)
      .map(([name, value]) => [name, String(value)]),
  ).toString();
  const response = await fetch(
    `${path.replace('[id]', String(id))}${search === '' ? '' : `?${search}`}`,
    {
      method,
      keepalive,
      ...(body === undefined
        ? {}
        : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    },
  );
  if (!response.ok) throw await refusalOf(response);
  return answer.parse(response.status === 204 ? undefined : await response.json());
}

/** Whether what was asked has been done. */
export const succeeds = (asked: Promise<unknown>): Promise<boolean> =>
  asked.then(
    () => true,
    () => false,
  );
