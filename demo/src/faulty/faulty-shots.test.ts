import { checkOf, checks, findingsOf, fixFindings, parseShot } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { nightFerry } from '../index.ts';
import { harbourRigs } from '../rigs/index.ts';
import { faultyShots } from './faulty-shots.ts';

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

  test('there is one for every check', () => {
    const told = new Set(faultyShots().flatMap((f) => f.findings.map((x) => x.check)));
    expect(checks.map((c) => c.id).filter((id) => !told.has(id))).toEqual([]);
  });
});

test.each(nightFerry.shots().map((s) => [s.name, s] as const))('%s has nothing the checks would find', (_, shot) => {
  expect(findingsOf(shot)).toEqual([]);
});
