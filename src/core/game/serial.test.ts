import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVERYTHING, gameOf } from '../../../tests/support/games';
import { rulesetOf } from '../rulesets';
import { GAME_KINDS } from './ruleset';
import { fromJson, packNodes, toJson, unpackNodes } from './serial';
import { mainLine, positionsAlong } from './tree';

describe.each(GAME_KINDS)('a %s game as plain data', (kind) => {
  const games = gameOf(kind, EVERYTHING, ['Event']);

  it('comes back as it was, packed or not', () => {
    fc.assert(
      fc.property(games, (record) => {
        const json = JSON.parse(JSON.stringify(toJson(record))) as ReturnType<typeof toJson>;
        expect(fromJson(json, { legality: 'checked' })).toEqual(record);
        const packed = JSON.parse(JSON.stringify(packNodes(record.tree))) as ReturnType<
          typeof packNodes
        >;
        expect(unpackNodes(packed)).toEqual(json.nodes);
        // as it was stored before there was anything to pack
        expect(unpackNodes(json.nodes)).toEqual(json.nodes);
      }),
    );
  });

  it('has keys along its main line as by playing it', () => {
    fc.assert(
      fc.property(games, ({ tree }) => {
        const ruleset = rulesetOf(kind);
        const line = mainLine(tree);
        const positions = positionsAlong(ruleset, tree.start, line);
        const before = ruleset.write(positions[0]!);
        const moves = line.map(({ move }) => move);
        expect(ruleset.keysAlong(positions[0]!, moves)).toEqual(positions.map(ruleset.key));
        expect(ruleset.write(positions[0]!)).toBe(before);
      }),
    );
  });

  it('takes the room of its moves where nothing was written on it', () => {
    fc.assert(
      fc.property(games, ({ tree }) => {
        const plain = packNodes(tree).filter((node) => typeof node === 'string');
        const bare = [...tree.nodes.values()].filter(
          (node) =>
            node.parent !== null && node.parent === node.id - 1 && Object.keys(node).length === 4,
        );
        expect(plain.length).toBe(bare.length);
      }),
    );
  });
});
