import { expect, it } from 'vitest';
import { csvRow } from './csv';

it.each([
  [['a', 1, null, true], 'a,1,,true'],
  [['a,b', 'say "so"', 'two\nlines'], '"a,b","say ""so""","two\nlines"'],
  [['=1+1', '+1', '-1', '@x', '\tx'], "'=1+1,'+1,'-1,'@x,'\tx"],
  [['\rx', '=a,b'], '"\'\rx","\'=a,b"'],
  [[-1, 0.5, ''], '-1,0.5,'],
] as const)('%j is written %j', (values, expected) => {
  expect(csvRow(values)).toBe(`${expected}\r\n`);
});
