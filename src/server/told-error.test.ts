import { DrizzleQueryError } from 'drizzle-orm/errors';
import { describe, expect, it } from 'vitest';
import { isRefusedData, toldError } from './told-error';

/** An error as PostgreSQL gives it. */
const refusal = (message: string, code: string): Error =>
  Object.assign(new Error(message), {
    severity: 'ERROR',
    code,
    detail: 'Key (name)=(Ann) exists.',
  });
const query = (cause: Error): Error =>
  new DrizzleQueryError('insert into games values ($1)', ['what Ann wrote'], cause);

describe('an error as it is told', () => {
  it('says nothing of a query, its parameters, or what PostgreSQL quotes', () => {
    const told = toldError(query(refusal('invalid input syntax for type integer: "Ann"', '22P02')));
    expect(told).toMatchObject({ message: 'invalid input syntax for type integer', code: '22P02' });
    expect(JSON.stringify(told)).not.toMatch(/Ann|insert into/);
  });
  it('is short, and can be stored itself', () => {
    const told = toldError(new Error(`nul \0 half \ud800 ${'x'.repeat(10_000)}`));
    expect(told.message.length).toBeLessThanOrEqual(500);
    expect(told.message).not.toContain('\0');
    expect(told.message.isWellFormed()).toBe(true);
    expect(told.frames!.length).toBeLessThanOrEqual(12);
  });
  it('may be anything that was thrown', () => {
    expect(toldError('words')).toEqual({ type: 'string', message: 'words' });
    expect(toldError(undefined)).toMatchObject({ type: 'undefined' });
  });
});

it.each([
  ['22P05', true],
  ['23505', true],
  ['54001', true],
  ['57P01', false],
  ['08006', false],
  ['40001', false],
])('SQLSTATE %s is about the data: %s', (code, expected) => {
  expect(isRefusedData(query(refusal('no', code)))).toBe(expected);
  expect(isRefusedData(refusal('no', code))).toBe(expected);
  expect(isRefusedData(new Error('no'))).toBe(false);
});
