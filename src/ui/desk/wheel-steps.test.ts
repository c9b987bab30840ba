import { expect, it } from 'vitest';
import { WheelSteps } from './wheel-steps';

const turn = (
  events: readonly (readonly [deltaY: number, at: number, mode?: number])[],
): number => {
  const wheel = new WheelSteps();
  return events.reduce(
    (sum, [deltaY, timeStamp, deltaMode = 0]) => sum + wheel.turn({ deltaY, deltaMode, timeStamp }),
    0,
  );
};

it('a notch of a wheel is a move, forward or back', () => {
  expect(turn([[100, 0]])).toBe(1);
  expect(turn([[-120, 0]])).toBe(-1);
  expect(turn([[3, 0, 1]])).toBe(1);
  expect(turn([[1, 0, 2]])).toBe(3);
  expect(
    turn([
      [100, 0],
      [100, 900],
      [100, 1800],
    ]),
  ).toBe(3);
});

it('a swipe goes by its distance, however many events tell of it', () => {
  const swipe = (events: number) =>
    Array.from({ length: events }, (_, index) => [600 / events, index * 8] as const);
  expect(turn(swipe(6))).toBe(6);
  expect(turn(swipe(60))).toBe(6);
  expect(turn(swipe(300))).toBe(6);
});

it('what is left over does not count after a pause or a turn', () => {
  expect(
    turn([
      [90, 0],
      [90, 1000],
    ]),
  ).toBe(0);
  expect(
    turn([
      [90, 0],
      [-120, 10],
    ]),
  ).toBe(-1);
  expect(
    turn([
      [90, 0],
      [20, 10],
    ]),
  ).toBe(1);
});
