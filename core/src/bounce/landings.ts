import type { NumberCurve } from '../curve/key.ts';
import type { Touch } from '../ground/ground.ts';
import { bouncesOf, type Contact, contactsOf } from './bounces.ts';

/** A landing on the ground, and how the member stood to it. */
export interface Landing {
  readonly contact: Contact;
  readonly touch: Touch;
}

/** A fall slower than this is a setting down: nothing that is let go falls so slowly. Metres per second². */
const LEAST_GRAVITY = 2;
/** Half way down it is at least this far from the ground: what rolls down a slope is not in the air. Metres. */
const IN_THE_AIR = 4e-3;

/**
 * The landings among a height's low points: those near enough to the ground to be meant to touch it, after a way through the air.
 * @param touch how the member stands to the ground at a frame; `closely` where only what is near to it counts
 * @returns all of them in order, and those that follow one another as one bounce, run by run
 */
export function landingsOf(
  curve: NumberCurve,
  rate: number,
  touch: (frame: number, closely: boolean) => Touch | null,
): { landings: Landing[]; runs: Landing[][] } {
  const contacts = contactsOf(curve);
  const bounces = bouncesOf(contacts);
  const bouncing = new Set(bounces.flat());
  const found = new Map<Contact, Landing>();
  for (const contact of contacts) {
    if (contact.fall.height < 0.004 || !(bouncing.has(contact) || falls(contact, rate))) continue;
    const here = touch(contact.frame, true);
    if (!here || !isNear(contact, here.gap)) continue;
    const above = touch(contact.frame - Math.min(contact.fall.frames / 2, 8), false);
    const airborne = (above?.gap ?? 0) > Math.max(IN_THE_AIR, 1.5 * Math.abs(here.gap));
    if (airborne) found.set(contact, { contact, touch: here });
  }
  const runs = bounces.map((run) => run.flatMap((c) => found.get(c) ?? [])).filter((run) => run.length > 0);
  return { landings: [...found.values()], runs };
}

/** Whether something falls there, and is not set down. */
const falls = ({ fall }: Contact, rate: number) =>
  ((2 * fall.height) / fall.frames ** 2) * rate * rate >= LEAST_GRAVITY;

/** Whether a low point is near enough to the ground, for how far it fell, to be meant to touch it. */
const isNear = ({ fall }: Contact, gap: number) => Math.abs(gap) <= Math.max(0.02, Math.min(0.1, fall.height / 4));
