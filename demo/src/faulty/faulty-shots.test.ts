import {
  type Curve,
  checkOf,
  checks,
  type Finding,
  findingsOf,
  fixFindings,
  parseShot,
  type Shot,
  splitPath,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { nightFerry } from '../index.ts';
import { harbourRigs } from '../rigs/index.ts';
import { faultyShots } from './faulty-shots.ts';

/** How many findings of each kind each member has: what comes later in time moves with what is made shorter. */
function counted(findings: readonly Finding[]): Map<string, number> {
  const out = new Map<string, number>();
  for (const { check, member } of findings) out.set(`${check} ${member}`, (out.get(`${check} ${member}`) ?? 0) + 1);
  return out;
}

/** A member with its whole rig, and what hangs on it. */
function bodyOf(shot: Shot, id: string): Set<string> {
  const { parent, kind } = shot.members.at(id);
  const root = kind === 'control' && parent !== null ? parent : id;
  return new Set([root, ...shot.members.values().flatMap((m) => (m.parent === root ? [m.id] : []))]);
}

/**
 * Fixes that by their very words reach beyond the frames of a finding: what bounces shorter lets everything after it come
 * earlier, an angle unrolled is carried on, a limb set later goes as a whole, and what mirrors at its middle is written twice.
 */
const REACH: Record<string, 'onward' | 'whole'> = {
  equalBounces: 'onward',
  heightNotLost: 'onward',
  flip: 'onward',
  twinned: 'whole',
  seamKey: 'whole',
  seamHitch: 'whole',
  halvesDiffer: 'whole',
};

/** The first and the last frame between which a fix may move keys or change their values. */
function reachOf({ check, frame, until }: Finding): readonly [number, number] {
  if (frame === null || REACH[check] === 'whole') return [-Infinity, Infinity];
  // A key between frames goes to the whole one beside it, and what squashes too early does so a frame later.
  return [frame - 1, REACH[check] === 'onward' ? Infinity : (until ?? frame) + 1];
}

/** Keys whose time or value a fix has changed where its finding is not, and handles it has changed further than a key away. */
function astray(old: Curve['keys'], now: Curve['keys'], [first, last]: readonly [number, number]): string[] {
  const kept = new Map([...now].map((k) => [k.frame, k]));
  const outside = [...old].filter((k) => k.frame < first || k.frame > last);
  const before = outside.findLast((k) => k.frame < first);
  const after = outside.find((k) => k.frame > last);
  const known = new Set([...old].map((k) => k.frame));
  return [
    ...outside.flatMap((k) => {
      const same = kept.get(k.frame);
      if (same?.value !== k.value) return [`key ${k.frame}`];
      // Smooth handles of the keys beside it turn with what lies between.
      return k === before || k === after || JSON.stringify(same) === JSON.stringify(k) ? [] : [`handles of ${k.frame}`];
    }),
    ...[...now].flatMap(({ frame }) =>
      known.has(frame) || (frame >= first && frame <= last) ? [] : [`new key ${frame}`],
    ),
  ];
}

describe('a faulty shot', () => {
  test.each(faultyShots().map((f) => [f.shot.name, f] as const))(
    '%s: just what is wrong with it is found',
    (_, faulty) => {
      expect(parseShot(JSON.parse(JSON.stringify(faulty.shot)), harbourRigs()).ok).toBe(true);
      const found = findingsOf(faulty.shot);
      expect(found.map((f) => [f.check, f.frame])).toEqual(faulty.findings.map((f) => [f.check, f.frame]));
      found.forEach((f, i) => {
        expect(f.value, f.text).toBeCloseTo(faulty.findings[i].value, 1);
      });
    },
  );

  test.each(faultyShots().map((f) => [f.shot.name, f] as const))(
    '%s: what the checks offer mends it',
    (_, { shot }) => {
      let mended = shot;
      for (const { id } of checks) {
        const own = findingsOf(mended).filter((f) => f.check === id && f.fixable);
        if (own.length > 0) mended = fixFindings.apply(mended, { findings: own });
      }
      expect(findingsOf(mended).filter((f) => checkOf(f.check)?.fix !== undefined)).toEqual([]);
    },
  );

  test.each(
    faultyShots().flatMap((f) =>
      findingsOf(f.shot)
        .filter((x) => x.fixable)
        .map((x) => [`${f.shot.name}: ${x.text}`, f.shot, x] as const),
    ),
  )('%s Mended, that is gone, nothing else comes, and keys it does not name stay', (_, shot, finding) => {
    const [before, after] = [
      counted(findingsOf(shot)),
      counted(findingsOf(fixFindings.apply(shot, { findings: [finding] }))),
    ];
    const named = `${finding.check} ${finding.member}`;
    expect(after.get(named) ?? 0).toBeLessThan(before.get(named)!);
    for (const [what, count] of after) expect(count, what).toBeLessThanOrEqual(before.get(what) ?? 0);
    const mended = fixFindings.apply(shot, { findings: [finding] });
    // Keys on whole frames, and of nobody else.
    const body = bodyOf(shot, finding.member);
    for (const [path, curve] of mended.curves.entries()) {
      const old = shot.curves.get(path);
      if (old === curve) continue;
      expect(body.has(splitPath(path).member), path).toBe(true);
      const known = new Set(old?.keys.map((k) => k.frame));
      for (const { frame } of curve.keys)
        expect(known.has(frame) || Number.isInteger(frame), `${path} ${frame}`).toBe(true);
      // Within the body too: what lies beside the finding in time stands as it stood.
      if (old) expect(astray(old.keys, curve.keys, reachOf(finding)), path).toEqual([]);
    }
  });

  test('there is one for every check', () => {
    const told = new Set(faultyShots().flatMap((f) => f.findings.map((x) => x.check)));
    expect(checks.map((c) => c.id).filter((id) => !told.has(id))).toEqual([]);
  });
});

test.each(nightFerry.shots().map((s) => [s.name, s] as const))('%s has nothing the checks would find', (_, shot) => {
  expect(findingsOf(shot)).toEqual([]);
});
