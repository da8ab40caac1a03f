/** Waves over frames. They are at their start on frame 1, and a period that is 0 gives no wave. */

const phase = (frame: number, period: number, shift: number) => (period === 0 ? 0 : (frame - 1 - shift) / period);
/** The part of a phase within its round. Taken first, so that a closed wave closes to the last digit. */
const within = (turns: number) => turns - Math.floor(turns);

export const wave = (frame: number, strength: number, period: number, shift: number): number =>
  period === 0 ? 0 : strength * Math.sin(2 * Math.PI * within(phase(frame, period, shift)));

export const triangle = (frame: number, strength: number, period: number, shift: number): number =>
  period === 0 ? 0 : strength * (1 - 4 * Math.abs(within(phase(frame, period, shift) + 0.25) - 0.5));

export const saw = (frame: number, strength: number, period: number, shift: number): number =>
  strength * within(phase(frame, period, shift));

/**
 * The period nearest to a wanted one of which a whole number goes into `length` frames, so that what comes after them is
 * again the first.
 */
export const fittedPeriod = (period: number, length: number): number =>
  length / Math.max(1, Math.round(length / Math.max(Math.abs(period), 1e-6)));
