import written from '../../../docs/help.md?raw';

/** What panels are, and the steps of a first shot, as `docs/help.md` says it: it is written there alone. */

/** A panel as it is explained: what it is, and where to go from there. */
export interface PanelHelp {
  readonly about: string;
  readonly goOn: string;
}

export interface FirstStep {
  readonly title: string;
  readonly text: string;
}

const FIRST_SHOT = 'First shot';

const sections = new Map(
  written
    .split(/^## /m)
    .slice(1)
    .map((section) => {
      const [title, ...lines] = section.split('\n');
      return [title.trim(), lines.join('\n').trim()] as const;
    }),
);

const oneLine = (text: string) => text.replace(/\s*\n\s*/g, ' ').trim();

export const panelHelp: ReadonlyMap<string, PanelHelp> = new Map(
  [...sections]
    .filter(([title]) => title !== FIRST_SHOT)
    .map(([title, text]) => {
      const [about, goOn = ''] = text.split(/^Go on: /m);
      return [title, { about: oneLine(about), goOn: oneLine(goOn) }] as const;
    }),
);

export const firstSteps: readonly FirstStep[] = (sections.get(FIRST_SHOT) ?? '')
  .split(/^\d+\. /m)
  .slice(1)
  .map((step) => {
    const [, title = '', text = ''] = /^\*\*(.*?)\.\*\*\s*([\s\S]*)$/.exec(step.trim()) ?? [];
    return { title, text: oneLine(text) };
  });
