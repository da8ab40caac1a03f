import type { Shot } from '../document/shot.ts';
import { removeKeys } from '../edit/commands/keys.ts';
import { type Check, type Draft, frameText } from './check.ts';
import type { Watched } from './watched.ts';

/** The frames each member stands planted, first to last, as far as the shot is watched. */
function* plantsOf(watched: Watched, id: string): Iterable<[number, number]> {
  const holds = [...watched.member(id).holds].sort((a, b) => a.frame - b.frame);
  for (const [i, hold] of holds.entries()) {
    if (hold.by.is !== 'stage') continue;
    const until = holds[i + 1] ? holds[i + 1].frame : watched.last;
    const [from, to] = [Math.max(watched.first, Math.ceil(hold.frame)), Math.min(watched.last, Math.floor(until))];
    if (from <= to) yield [from, to];
  }
}

export const plantSlides: Check = {
  id: 'plantSlides',
  name: 'Planted part slides',
  why: 'A planted hand or foot carries weight. When it slips, the whole body floats, whatever else is right.',
  unit: 'mm',
  tolerance: 0.5,
  most: 50,
  step: 0.1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const body of watched.bodies) {
      const count = body.placed.controls.length;
      for (const [c, slot] of body.placed.controls.entries()) {
        const id = watched.frame.layout.ids[slot];
        const limb = body.limbs.findIndex((l) => l.dials === body.placed.compiled.rig.controls[c].id);
        for (const [from, to] of plantsOf(watched, id)) {
          let worst = { frame: from, slid: 0 };
          for (let f = from; f <= to; f++) {
            const slid = slideOf(body, count, c, limb, from - watched.first, f - watched.first) * 1000;
            if (slid > worst.slid) worst = { frame: f, slid };
          }
          if (worst.slid > tolerance)
            yield {
              member: id,
              frame: worst.frame,
              until: to,
              value: worst.slid,
              // A limb that does not get there is not mended by its target's keys.
              unfixable:
                limb >= 0 && body.missed[(worst.frame - watched.first) * body.limbs.length + limb] * 1000 > tolerance,
              text: `${watched.name(id)} is planted from ${frameText(from)} and has slid ${worst.slid.toFixed(1)} mm at ${frameText(worst.frame)}.`,
            };
        }
        yield null;
      }
    }
  },
  fix: {
    words: 'take out the keys that move it',
    apply(shot, { member, frame, until }): Shot {
      const held = [...shot.members.at(member).holds]
        .sort((a, b) => a.frame - b.frame)
        .findLast((h) => h.frame <= frame!);
      const from = held?.frame ?? frame!;
      const keys = Object.fromEntries(
        shot.curves
          .entries()
          .filter(([path]) => path.startsWith(`${member}.move.`) || path.startsWith(`${member}.turn.`))
          .map(([path, curve]) => [
            path,
            (curve.keys as readonly { frame: number }[]).map((k) => k.frame).filter((f) => f > from && f <= until!),
          ]),
      );
      return removeKeys.apply(shot, { keys });
    },
  },
};

/** How far a control has gone since a frame, and how much more its limb misses it by. Metres. */
function slideOf(
  body: Watched['bodies'][number],
  count: number,
  c: number,
  limb: number,
  from: number,
  at: number,
): number {
  const place = (i: number, r: number) => body.places[(i * count + c) * 3 + r];
  const gone = Math.hypot(...[0, 1, 2].map((r) => place(at, r) - place(from, r)));
  const missed = limb < 0 ? 0 : body.missed[at * body.limbs.length + limb];
  return gone + missed;
}
