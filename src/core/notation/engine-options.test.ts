import { describe, expect, it } from 'vitest';
import { optionProblems, readOption } from './engine-options';

describe('the options of an external engine', () => {
  it('are read with names of several words, limits and choices', () => {
    expect(readOption('option name Use Book type check default true')).toMatchObject({
      name: 'Use Book',
      type: 'check',
      default: 'true',
    });
    expect(readOption('option name Hash type spin default 16 min 1 max 1024')).toMatchObject({
      min: 1,
      max: 1024,
    });
    expect(
      readOption('option name Style type combo default Calm var Calm var Very Sharp'),
    ).toMatchObject({ choices: ['Calm', 'Very Sharp'] });
    expect(readOption('option name Log type string default')).toMatchObject({ default: '' });
  });

  it('anything else is none', () => {
    for (const line of ['uciok', 'option', 'option name X', 'option name X type magic', ''])
      expect(readOption(line)).toBeNull();
  });

  it('are checked before they are given: name, range, choice', () => {
    const offered = [
      'option name Hash type spin default 16 min 1 max 1024',
      'option name Use Book type check default true',
      'option name Style type combo default Calm var Calm var Sharp',
    ].map((line) => readOption(line)!);
    expect(optionProblems({ hash: '64', 'Use Book': 'false', Style: 'Sharp' }, offered)).toEqual(
      [],
    );
    expect(optionProblems({ Hash: '0' }, offered)[0]).toContain('from 1 to 1024');
    expect(optionProblems({ Hash: '1e3' }, offered)).toHaveLength(1);
    expect(optionProblems({ 'Use Book': 'yes' }, offered)).toHaveLength(1);
    expect(optionProblems({ Style: 'Wild' }, offered)[0]).toContain('Calm, Sharp');
    expect(optionProblems({ Missing: '1' }, offered)[0]).toContain('no such option');
  });
});
