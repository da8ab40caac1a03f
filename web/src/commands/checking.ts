import { checkOf, type Finding, fixFindings, heedFindings, ignoreFinding } from '@varrup/core';
import { toast } from 'sonner';
import { useFindings } from '../checks/findings.ts';
import { tryOut } from '../trial/table.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickChannels, select } from '../view/selection.ts';
import type { AppCommand } from './command.ts';
import { run, shotNow } from './now.ts';

/** Findings: going to them, mending them, leaving them alone. */

/** Goes to where a finding is and picks whom it is about. */
export function goToFinding(finding: Finding): void {
  useFindings.getState().set({ at: finding.id });
  if (finding.frame !== null) {
    usePlayhead.getState().stop();
    usePlayhead.getState().go(finding.frame);
  }
  select([finding.member]);
  if (finding.path) pickChannels([finding.path]);
}

/** Shows what the checks offer for findings: it is made when it is kept. */
export function fix(findings: readonly Finding[]): void {
  const [{ check, member }] = findings;
  const shot = shotNow();
  const words = checkOf(check)?.fix?.words ?? 'mend';
  const of = findings.length === 1 ? (shot?.members.get(member)?.name ?? '') : `${findings.length} findings`;
  const title = `${words.charAt(0).toUpperCase()}${words.slice(1)}: ${of}`;
  const nothing = 'That could not be mended by itself. Go there, and look at the keys around it.';
  tryOut({ owner: `fix ${findings.map((f) => f.id).join()}`, title }, fixFindings, { findings }, nothing);
}

/** The finding one is at, if it is still there. */
const current = (): Finding | undefined => {
  const { findings, at } = useFindings.getState();
  return findings.find((f) => f.id === at);
};

function step(by: number): void {
  const { findings } = useFindings.getState();
  if (findings.length === 0) {
    toast.success('The checks have found nothing.');
    return;
  }
  const at = findings.findIndex((f) => f.id === useFindings.getState().at);
  const next = at < 0 ? (by > 0 ? 0 : findings.length - 1) : (at + by + findings.length) % findings.length;
  goToFinding(findings[next]);
  usePlaces.setState({ side: 'checks' });
}

const hasFindings = () => useFindings.getState().findings.length > 0;

export const checking: AppCommand[] = [
  { id: 'check.next', label: 'Go to the next finding', group: 'Checks', shortcut: 'J', run: () => step(1) },
  {
    id: 'check.previous',
    label: 'Go to the finding before',
    group: 'Checks',
    shortcut: 'Shift+J',
    run: () => step(-1),
  },
  {
    id: 'check.fix',
    label: 'Mend the finding you are at',
    group: 'Checks',
    shortcut: 'Alt+Shift+J',
    run: () => {
      const finding = current();
      if (finding?.fixable) fix([finding]);
      else if (finding) toast(`“${checkOf(finding.check)?.name}” has no fix: it is for you to decide.`);
      else toast('Go to a finding first, with J.');
    },
    enabled: hasFindings,
  },
  {
    id: 'check.ignore',
    label: 'Ignore the finding you are at',
    group: 'Checks',
    run: () => {
      const finding = current();
      if (finding) run(ignoreFinding, { finding });
      else toast('Go to a finding first, with J.');
    },
    enabled: hasFindings,
  },
  {
    id: 'check.heed',
    label: 'Watch again all that was ignored',
    group: 'Checks',
    run: () => run(heedFindings, { ignored: shotNow()?.watch.ignored ?? [] }),
    enabled: () => (shotNow()?.watch.ignored.length ?? 0) > 0,
  },
];
