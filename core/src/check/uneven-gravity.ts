import { bouncesOf, type Contact, contactsOf, gravityOf } from '../bounce/bounces.ts';
import { type Flight, flightFrom, flightGravity, flightsOf, framesOf, withFlight } from '../bounce/flights.ts';
import type { NumberCurve } from '../curve/key.ts';
import { type Check, frameText, percent } from './check.ts';

/** Flights of fewer frames are too coarse to say how fast they fall: one frame more or less is a quarter of it. */
const FEWEST = 8;

/** The gravity that most of a motion has: the middle one of its first fall and its flights, the first fall's where there are two. */
function usualGravity(first: Contact, flights: readonly Flight[]): number {
  const fall = gravityOf(first.fall);
  const sorted = [fall, ...flights.map(flightGravity)].sort((a, b) => a - b);
  return sorted.length < 3 ? fall : sorted[sorted.length >> 1];
}

/** The flights of a run that are long enough to tell. */
const telling = (curve: NumberCurve, run: readonly Contact[]) =>
  flightsOf(curve).filter((flight) => flight.run[0].frame === run[0].frame && framesOf(flight) >= FEWEST);

export const unevenGravity: Check = {
  id: 'unevenGravity',
  name: 'Gravity that changes',
  why: 'Whatever falls, falls alike each time: a high bounce is long, a low one short. Where height and time do not go together the thing seems light in one bounce and heavy in the next.',
  unit: '%',
  tolerance: 35,
  most: 200,
  step: 5,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const { member, path, runs } of watched.landings) {
      const curve = watched.shot.curves.get(path);
      if (curve?.type !== 'number') continue;
      const touched = new Set(runs.flat().map(({ contact }) => contact.frame));
      for (const run of bouncesOf(contactsOf(curve))) {
        // What is set down, or lifted, is not thrown.
        const flights = telling(curve, run).filter(
          ({ contact, next }) => touched.has(contact.frame) && touched.has(next.frame),
        );
        const usual = usualGravity(run[0], flights);
        for (const flight of flights) {
          const apart = flightGravity(flight) / usual - 1;
          if (Math.abs(apart) * 100 <= tolerance) continue;
          yield {
            member,
            path,
            frame: flight.contact.frame,
            until: flight.next.frame,
            value: Math.abs(apart) * 100,
            text: `${watched.name(member)} falls ${percent(Math.abs(apart))} ${apart > 0 ? 'harder' : 'softer'} from ${frameText(flight.contact.frame)} to ${frameText(flight.next.frame)} than in its other bounces: its height and its time do not go together.`,
          };
        }
      }
      yield null;
    }
  },
  fix: {
    words: 'height from its time',
    apply(shot, { path, frame }) {
      const flight = path === null || frame === null ? undefined : flightFrom(shot, path, frame);
      const curve = path === null ? undefined : shot.curves.get(path);
      if (!flight || path === null || curve?.type !== 'number') return shot;
      const usual = usualGravity(flight.run[0], telling(curve, flight.run));
      return withFlight(shot, path, flight, usual, framesOf(flight));
    },
  },
};
