import * as z from 'zod';
import type { Need } from './rights';

/** What a page may ask of the server and is answered: one definition for both, checked on either side. */
export interface Contract<Query, Body, Answer> {
  method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** Of the route; `[id]` stands for a row's id. */
  path: `/api/${string}`;
  /** What who asks must have. */
  needs: Need;
  /** What is in the address behind the path. */
  query: z.ZodType<Query>;
  /** What is sent as JSON. */
  body: z.ZodType<Body>;
  answer: z.ZodType<Answer>;
  /** Of the answer: 204 where there is none. */
  status: number;
}

const nothing = z.undefined();
const noQuery = z.object({});

/** Parts that are left out are empty; who asks must have an account unless more or less is said. */
export const contract = <Query = Record<string, never>, Body = undefined, Answer = undefined>(
  method: Contract<Query, Body, Answer>['method'],
  path: Contract<Query, Body, Answer>['path'],
  parts: {
    needs?: Need;
    query?: z.ZodType<Query>;
    body?: z.ZodType<Body>;
    answer?: z.ZodType<Answer>;
    status?: number;
  } = {},
): Contract<Query, Body, Answer> => ({
  method,
  path,
  needs: parts.needs ?? 'account',
  query: parts.query ?? (noQuery as unknown as z.ZodType<Query>),
  body: parts.body ?? (nothing as unknown as z.ZodType<Body>),
  answer: parts.answer ?? (nothing as unknown as z.ZodType<Answer>),
  status: parts.status ?? (parts.answer ? 200 : 204),
});

/** An answer, or a part of one, that was written as JSON where it was found; sent as it is. */
export class Written<T> {
  constructor(readonly json: string) {}

  value(): T {
    return JSON.parse(this.json) as T;
  }
}

/** Why the server does not do what it was asked. */
export const refusalSchema = z.object({ error: z.string(), detail: z.unknown().optional() });
