import { expect, it } from 'vitest';
import { timeClassOf } from './time-class';
import { readTimeControl } from './time-control';

it.each([
  ['180', 'blitz'],
  ['180+2', 'blitz'],
  ['600', 'blitz'],
  ['601', 'rapid'],
  ['300+5', 'blitz'],
  ['300+6', 'rapid'],
  ['900+10', 'rapid'],
  ['3599', 'rapid'],
  ['3600', 'long'],
  ['40/7200:3600', 'long'],
  ['40/300:300', 'blitz'],
  ['5400+30', 'long'],
  ['各10分', 'blitz'],
  ['10分 秒読み30秒', 'rapid'],
  ['1時間+60秒', 'long'],
])('%s is %s', (text, expected) => {
  expect(timeClassOf(readTimeControl(text)!)).toBe(expected);
});
