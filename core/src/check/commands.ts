import type { Shot } from '../document/shot.ts';
import type { Ignored } from '../document/watch.ts';
import { memberWords } from '../document/words.ts';
import { defineCommand } from '../edit/edit.ts';
import type { Finding } from './check.ts';
import { checkOf } from './checks.ts';

const place = ({ frame }: Finding) => (frame === null ? '' : ` at ${Math.round(frame * 100) / 100}`);

/**
 * Does what the checks of some findings offer to mend them. A fix that mends all of a member's findings of its check is done once;
 * the others from the last frame to the first, so that none of them moves the places of those still to be mended.
 */
export const fixFindings = defineCommand<{ findings: readonly Finding[] }>({
  name: 'check.fix',
  label: ({ findings }, shot) => {
    const [first] = findings;
    const name = checkOf(first?.check ?? '')?.name.toLowerCase() ?? 'findings';
    return findings.length === 1
      ? `fix: ${name} of ${memberWords(shot, [first.member])}${place(first)}`
      : `fix: ${name}, ${findings.length} times`;
  },
  apply(shot, { findings }) {
    const done = new Set<string>();
    return [...findings]
      .sort((a, b) => (b.frame ?? 0) - (a.frame ?? 0))
      .reduce((next: Shot, finding) => {
        const fix = checkOf(finding.check)?.fix;
        const whole = `${finding.check} ${fix?.together ? finding.path : finding.member}`;
        if (!fix || ((fix.all || fix.together) && done.has(whole))) return next;
        done.add(whole);
        if (!fix.together || finding.path === null) return fix.apply(next, finding);
        const own = findings.filter(({ check, path }) => check === finding.check && path === finding.path);
        return fix.together(next, finding.path, own);
      }, shot);
  },
});

/** Leaves a finding alone from now on: this check, of this member, around this frame. */
export const ignoreFinding = defineCommand<{ finding: Finding }>({
  name: 'check.ignore',
  label: ({ finding }, shot) =>
    `ignore: ${checkOf(finding.check)?.name.toLowerCase() ?? finding.check} of ${memberWords(shot, [finding.member])}${place(finding)}`,
  apply: (shot, { finding }) => ({
    ...shot,
    watch: {
      ...shot.watch,
      ignored: [...shot.watch.ignored, { check: finding.check, member: finding.member, frame: finding.frame }],
    },
  }),
});

/** Watches again what was to be ignored. */
export const heedFindings = defineCommand<{ ignored: readonly Ignored[] }>({
  name: 'check.heed',
  label: ({ ignored }) =>
    ignored.length === 1 ? 'watch again what was ignored' : `watch ${ignored.length} ignored findings again`,
  apply(shot, { ignored }) {
    const gone = new Set(ignored);
    const left = shot.watch.ignored.filter((i) => !gone.has(i));
    return left.length === shot.watch.ignored.length ? shot : { ...shot, watch: { ...shot.watch, ignored: left } };
  },
});

/** Sets what a check takes for all right in this shot; null goes back to what is usual. */
export const setTolerance = defineCommand<{ check: string; tolerance: number | null }>({
  name: 'check.tolerance',
  label: ({ check, tolerance }) =>
    `${tolerance === null ? 'usual' : 'another'} tolerance for ${checkOf(check)?.name.toLowerCase() ?? check}`,
  apply(shot, { check, tolerance }) {
    const { [check]: _, ...rest } = shot.watch.tolerances;
    const tolerances = tolerance === null ? rest : { ...rest, [check]: tolerance };
    return { ...shot, watch: { ...shot.watch, tolerances } };
  },
});
