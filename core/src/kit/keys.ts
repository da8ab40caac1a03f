import { slopeHandle } from '../bounce/parabolas.ts';
import type { Station, Vector } from '../bounce/throw.ts';
import type { Key } from '../curve/key.ts';

/** Keys as kits write them. */

/** Frames before the first station that show how fast it comes, three times as many as its handle reaches. */
const COMING = 12;

/** Keys of one channel through stations: between two of them a parabola, a straight line or a rest, all of them exact. */
export function throughStations(stations: readonly Station[], value: (v: Vector) => number, origin = 0): Key[] {
  return stations.map((s, i): Key => {
    const back = i > 0 ? s.frame - stations[i - 1].frame : 0;
    const on = i + 1 < stations.length ? stations[i + 1].frame - s.frame : 0;
    const [arrive, leave] = [value(s.arrive), value(s.leave)];
    return {
      frame: s.frame,
      value: origin + value(s.place),
      // What is moving when it is let go comes to it as fast as it goes on.
      in: i > 0 ? slopeHandle('in', back, arrive) : leave === 0 ? { kind: 'flat' } : slopeHandle('in', COMING, leave),
      out: i === stations.length - 1 ? { kind: 'flat' } : slopeHandle('out', on, leave),
      joined: i === 0 || Math.abs(arrive - leave) < 1e-12,
      role: 'key',
    };
  });
}

const key = (frame: number, value: number, kind: 'flat' | 'smooth' | 'linear'): Key => ({
  frame,
  value,
  in: { kind },
  out: { kind },
  joined: kind !== 'linear',
  role: 'key',
});

/** A key that is level on both sides: an extreme. */
export const levelKey = (frame: number, value: number): Key => key(frame, value, 'flat');
export const throughKey = (frame: number, value: number): Key => key(frame, value, 'smooth');
export const straightKey = (frame: number, value: number): Key => key(frame, value, 'linear');
