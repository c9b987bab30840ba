import { createTranslator } from 'use-intl/core';
import { describe, expect, it } from 'vitest';
import en from '../../messages/en.json';
import ja from '../../messages/ja.json';

type Tree = { [name: string]: string | Tree };

const leaves = (tree: Tree, path: string[] = []): [string, string][] =>
  Object.entries(tree).flatMap(([name, value]) =>
    typeof value === 'string'
      ? [[[...path, name].join('.'), value] as [string, string]]
      : leaves(value, [...path, name]),
  );

/** The names that a message takes; words of plural forms stand behind a brace too. */
const argumentsOf = (message: string): string[] =>
  [...new Set([...message.matchAll(/\{(\w+)(?:,|\})/g)].map(([, name]) => name!))].sort();

describe('the catalogues', () => {
  it('say the same things in both languages, with the same arguments', () => {
    const japanese = new Map(leaves(ja));
    expect(leaves(en).map(([name]) => name)).toEqual([...japanese.keys()]);
    for (const [name, message] of leaves(en))
      expect([name, argumentsOf(japanese.get(name)!)]).toEqual([name, argumentsOf(message)]);
  });

  it('can be written out in full', () => {
    const values = new Proxy({} as Record<string, number>, { get: () => 2, has: () => true });
    for (const [locale, messages] of [
      ['en', en],
      ['ja', ja],
    ] as const) {
      const failures: string[] = [];
      const t = createTranslator({
        locale,
        messages: messages as never,
        onError: (error) => failures.push(error.message),
      });
      for (const [name, message] of leaves(messages)) {
        const given = Object.fromEntries(argumentsOf(message).map((arg) => [arg, values[arg]!]));
        t(name as never, given as never);
      }
      expect(failures).toEqual([]);
    }
  });
});
