import { create } from 'zustand';
import { panelHelp } from './texts.ts';

/** Which panel is being explained. */
interface Explained {
  readonly panel: string | null;
  explain(panel: string | null): void;
}

export const useExplained = create<Explained>((set) => ({ panel: null, explain: (panel) => set({ panel }) }));

/** What the pointer was over last. */
let under: Element | null = null;

/** Follows the pointer from panel to panel. @returns what ends it */
export function followPanels(): () => void {
  const over = ({ target }: PointerEvent) => {
    under = target instanceof Element ? target : null;
  };
  document.addEventListener('pointerover', over);
  return () => document.removeEventListener('pointerover', over);
}

const panelOf = (element: Element | null): string | undefined =>
  element?.closest<HTMLElement>('[data-explained]')?.dataset.explained;

/** Explains the panel that has the focus; where none has, the one under the pointer; else the stage. */
export function explainHere(): void {
  const { activeElement } = document;
  const focused = activeElement === document.body ? null : activeElement;
  const panel = panelOf(focused) ?? panelOf(under) ?? 'Stage';
  useExplained.getState().explain(panelHelp.has(panel) ? panel : 'Stage');
}
