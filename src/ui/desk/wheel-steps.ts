/** Pixels of wheel or touchpad for one move: a notch of a usual wheel. */
const STEP = 100;
/** What an event tells in lines or pages, in pixels. */
const UNITS = [1, STEP / 3, 3 * STEP];
/** After so long without an event, what was left over is forgotten. */
const PAUSE_MS = 400;

/** Turns the distance that a wheel or a touchpad goes into moves, however many events it takes. */
export class WheelSteps {
  private rest = 0;
  private last = -Infinity;

  /** Moves forward, or negative back, that an event completes. */
  turn({
    deltaY,
    deltaMode,
    timeStamp,
  }: Pick<WheelEvent, 'deltaY' | 'deltaMode' | 'timeStamp'>): number {
    const distance = deltaY * (UNITS[deltaMode] ?? 1);
    const turnsBack = distance * this.rest < 0;
    if (turnsBack || timeStamp - this.last > PAUSE_MS) this.rest = 0;
    this.last = timeStamp;
    this.rest += distance;
    const steps = Math.trunc(this.rest / STEP);
    this.rest -= steps * STEP;
    return steps;
  }
}
