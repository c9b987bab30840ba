/** CSA's names by piece type. */
export const CSA_NAMES = [
  '',
  'FU',
  'KY',
  'KE',
  'GI',
  'KA',
  'HI',
  'KI',
  'OU',
  'TO',
  'NY',
  'NK',
  'NG',
  'UM',
  'RY',
] as const;

export const typeOfCsa = (name: string): number => CSA_NAMES.indexOf(name as 'FU');

/** CSA's names of tags. */
export const CSA_TAGS: Readonly<Record<string, string>> = {
  EVENT: 'Event',
  SITE: 'Site',
  OPENING: 'Opening',
  TIME_LIMIT: 'TimeControl',
  TIME: 'TimeControl',
};

/** A score in hundredths from Black's view; a mate in n plies is written as 32000 − n. */
export const CSA_MATE = 32000;
export const CSA_MATE_BOUND = 31000;
