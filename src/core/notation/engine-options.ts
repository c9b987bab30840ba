export const OPTION_TYPES = ['check', 'spin', 'combo', 'button', 'string', 'filename'] as const;

/** An option as an external engine offers it, in UCI's and USI's terms. */
export interface EngineOption {
  name: string;
  type: (typeof OPTION_TYPES)[number];
  default: string | null;
  /** Of a number. */
  min: number | null;
  max: number | null;
  /** Of a choice. */
  choices: readonly string[];
}

const WORDS = ['name', 'type', 'default', 'min', 'max', 'var'];

/** Reads `option name Hash type spin default 16 min 1 max 1024`; null where it is no such line. */
export function readOption(line: string): EngineOption | null {
  const [first, ...words] = line.split(/\s+/);
  if (first !== 'option') return null;
  const parts: { word: string; text: string[] }[] = [];
  for (const word of words)
    if (WORDS.includes(word)) parts.push({ word, text: [] });
    else parts.at(-1)?.text.push(word);
  const valueOf = (word: string): string | null =>
    parts.find((part) => part.word === word)?.text.join(' ') ?? null;
  const numberOf = (word: string): number | null => {
    const value = valueOf(word);
    return value === null || value === '' || !Number.isFinite(Number(value)) ? null : Number(value);
  };
  const name = valueOf('name');
  const type = OPTION_TYPES.find((known) => known === valueOf('type'));
  if (!name || !type) return null;
  return {
    name,
    type,
    default: valueOf('default'),
    min: numberOf('min'),
    max: numberOf('max'),
    choices: parts.filter(({ word }) => word === 'var').map(({ text }) => text.join(' ')),
  };
}

/** What is wrong with options that an engine is to be given; empty where nothing is. */
export function optionProblems(
  given: Readonly<Record<string, string>>,
  offered: readonly EngineOption[],
): string[] {
  return Object.entries(given).flatMap(([name, value]) => {
    const option = offered.find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (!option) return [`${name}: the engine has no such option`];
    if (option.type === 'check' && value !== 'true' && value !== 'false')
      return [`${name}: true or false, not ${value}`];
    if (option.type === 'combo' && !option.choices.includes(value))
      return [`${name}: one of ${option.choices.join(', ')}, not ${value}`];
    if (option.type === 'spin') {
      const number = Number(value);
      const [low, high] = [option.min ?? -Infinity, option.max ?? Infinity];
      if (!/^-?\d+$/.test(value) || number < low || number > high)
        return [`${name}: a whole number from ${low} to ${high}, not ${value}`];
    }
    return [];
  });
}
