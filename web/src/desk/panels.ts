import type { Shot } from '@varrup/core';
import {
  Activity,
  Blend,
  BookOpen,
  ChefHat,
  CircleCheck,
  Clapperboard,
  FileOutput,
  Film,
  FunctionSquare,
  GalleryHorizontal,
  GitCompare,
  Group,
  Joystick,
  Layers,
  ListChecks,
  ListOrdered,
  type LucideIcon,
  MessageSquareText,
  PackageCheck,
  PaintRoller,
  RectangleHorizontal,
  RefreshCw,
  Rows3,
  SlidersHorizontal,
  SquarePen,
  SunMedium,
  TableProperties,
  Users,
} from 'lucide-react';
import { type ComponentType, type LazyExoticComponent, lazy } from 'react';
import { ChecksBadge } from '../checks/ChecksBadge.tsx';
import { KitsBadge } from '../kits/KitsBadge.tsx';
import { NotesBadge } from '../review/NotesBadge.tsx';

/**
 * A panel: one of those that take turns in a place of a desk. Its word is its heading in `docs/help.md` as well, and what its tab, its
 * command and its hint say.
 */
export interface Panel {
  readonly id: string;
  readonly word: string;
  /** What one sees there, for its command: “Show …”. */
  readonly shows: string;
  readonly shortcut?: string;
  readonly sign: LucideIcon;
  readonly Body: LazyExoticComponent<ComponentType<{ shot: Shot }>>;
  /** What its sign says without being opened. */
  readonly Badge?: ComponentType;
}

/** A panel's part of its file, fetched when it is first shown. */
const part = <Name extends string>(
  load: () => Promise<Record<Name, ComponentType<{ shot: Shot }>>>,
  name: Name,
): Panel['Body'] => lazy(() => load().then((file) => ({ default: file[name] })));

/** All panels there are. A new one is a folder of its own, a line here, and its heading in `docs/help.md`. */
export const panels = {
  channels: {
    word: 'channels',
    shows: 'the channels',
    shortcut: 'Alt+6',
    sign: SlidersHorizontal,
    Body: part(() => import('../channels/ChannelsPanel.tsx'), 'ChannelsPanel'),
  },
  poses: {
    word: 'poses',
    shows: 'the poses',
    shortcut: 'Alt+0',
    sign: BookOpen,
    Body: part(() => import('../poses/PosesPanel.tsx'), 'PosesPanel'),
  },
  clips: {
    word: 'clips',
    shows: 'the clips',
    shortcut: 'Alt+Shift+C',
    sign: Layers,
    Body: part(() => import('../clips/ClipsPanel.tsx'), 'ClipsPanel'),
  },
  span: {
    word: 'span',
    shows: 'the picked span of the mix',
    shortcut: 'Alt+9',
    sign: RectangleHorizontal,
    Body: part(() => import('../mix/SpanPanel.tsx'), 'SpanPanel'),
  },
  company: {
    word: 'company',
    shows: 'the clips in company: how each goes about, tried with the keyboard',
    shortcut: 'Alt+Shift+4',
    sign: Users,
    Body: part(() => import('../company/CompanyPanel.tsx'), 'CompanyPanel'),
  },
  sets: {
    word: 'sets',
    shows: 'the control sets',
    shortcut: 'Alt+7',
    sign: Group,
    Body: part(() => import('../channels/SetsPanel.tsx'), 'SetsPanel'),
  },
  kits: {
    word: 'kits',
    shows: 'the kits',
    shortcut: 'Alt+8',
    sign: ChefHat,
    Body: part(() => import('../kits/KitsPanel.tsx'), 'KitsPanel'),
    Badge: KitsBadge,
  },
  checks: {
    word: 'checks',
    shows: 'the checks',
    shortcut: 'Alt+E',
    sign: CircleCheck,
    Body: part(() => import('../checks/ChecksPanel.tsx'), 'ChecksPanel'),
    Badge: ChecksBadge,
  },
  material: {
    word: 'material',
    shows: 'the materials: what forms are made of',
    shortcut: 'Alt+P',
    sign: PaintRoller,
    Body: part(() => import('../materials/MaterialPanel.tsx'), 'MaterialPanel'),
  },
  light: {
    word: 'light',
    shows: 'the light: sky, hour and lamps',
    shortcut: 'Alt+Q',
    sign: SunMedium,
    Body: part(() => import('../light/LightPanel.tsx'), 'LightPanel'),
  },
  sheet: {
    word: 'sheet',
    shows: 'the sheet',
    shortcut: 'Shift+S',
    sign: Rows3,
    Body: part(() => import('../timeline/SheetPanel.tsx'), 'SheetPanel'),
  },
  curves: {
    word: 'curves',
    shows: 'the curves',
    shortcut: 'Shift+C',
    sign: Activity,
    Body: part(() => import('../timeline/Curves.tsx'), 'Curves'),
  },
  mix: {
    word: 'mix',
    shows: 'the mix: clips on tracks',
    shortcut: 'Shift+W',
    sign: Blend,
    Body: part(() => import('../mix/MixPanel.tsx'), 'MixPanel'),
  },
  cycle: {
    word: 'cycle',
    shows: 'the cycle: gait chart and study graph',
    shortcut: 'Alt+Shift+U',
    sign: RefreshCw,
    Body: part(() => import('../clips/CycleView.tsx'), 'CycleView'),
  },
  bounces: {
    word: 'bounces',
    shows: 'the bounce table',
    shortcut: 'Shift+B',
    sign: TableProperties,
    Body: part(() => import('../bounces/BounceTable.tsx'), 'BounceTable'),
  },
  files: {
    word: 'files',
    shows: 'the files that are handed on',
    shortcut: 'Alt+Shift+I',
    sign: FileOutput,
    Body: part(() => import('../hand-on/FilesPanel.tsx'), 'FilesPanel'),
  },
  remarks: {
    word: 'remarks',
    shows: 'the remarks on what is handed on',
    shortcut: 'Alt+Shift+E',
    sign: ListChecks,
    Body: part(() => import('../hand-on/RemarksPanel.tsx'), 'RemarksPanel'),
  },
  pictures: {
    word: 'pictures',
    shows: 'the movies and pictures that are made',
    shortcut: 'Alt+Shift+Q',
    sign: Film,
    Body: part(() => import('../movie/PicturesPanel.tsx'), 'PicturesPanel'),
  },
  made: {
    word: 'made',
    shows: 'the list of what was made',
    shortcut: 'Alt+Shift+D',
    sign: PackageCheck,
    Body: part(() => import('../hand-on/MadePanel.tsx'), 'MadePanel'),
  },
  playground: {
    word: 'playground',
    shows: 'the playground: a file as its receiver plays it',
    shortcut: 'Alt+Shift+A',
    sign: Joystick,
    Body: part(() => import('../hand-on/PlaygroundPanel.tsx'), 'PlaygroundPanel'),
  },
  board: {
    word: 'board',
    shows: 'the board: the panels of the plan',
    shortcut: 'Alt+Shift+6',
    sign: GalleryHorizontal,
    Body: part(() => import('../board/BoardPanel.tsx'), 'BoardPanel'),
  },
  breakdown: {
    word: 'breakdown',
    shows: 'the breakdown list: what happens on which frame',
    shortcut: 'Alt+Shift+7',
    sign: ListOrdered,
    Body: part(() => import('../board/BreakdownPanel.tsx'), 'BreakdownPanel'),
  },
  panel: {
    word: 'panel',
    shows: 'the panel of this frame: its words, its camera, what lies under it',
    shortcut: 'Alt+Shift+8',
    sign: SquarePen,
    Body: part(() => import('../board/PanelFields.tsx'), 'PanelFields'),
  },
  footage: {
    word: 'footage',
    shows: 'the footage pinned to the shot',
    shortcut: 'Alt+Shift+9',
    sign: Clapperboard,
    Body: part(() => import('../footage/FootagePanel.tsx'), 'FootagePanel'),
  },
  notes: {
    word: 'notes',
    shows: 'the notes: what reviewers have said',
    shortcut: 'Alt+Shift+0',
    sign: MessageSquareText,
    Body: part(() => import('../review/NotesPanel.tsx'), 'NotesPanel'),
    Badge: NotesBadge,
  },
  versions: {
    word: 'versions',
    shows: 'the versions: what the shot is looked at beside, and what is otherwise',
    shortcut: 'Ctrl+Shift+H',
    sign: GitCompare,
    Body: part(() => import('../review/VersionsPanel.tsx'), 'VersionsPanel'),
  },
  formula: {
    word: 'formula',
    shows: 'the formula of the picked channel',
    shortcut: '=',
    sign: FunctionSquare,
    Body: part(() => import('../formula/FormulaPanel.tsx'), 'FormulaPanel'),
  },
} as const satisfies Record<string, Omit<Panel, 'id'>>;

export type PanelId = keyof typeof panels;

export const panelOf = (id: PanelId): Panel => ({ id, ...panels[id] });

/** A panel's heading in the help. */
export const headingOf = ({ word }: Pick<Panel, 'word'>): string => word.charAt(0).toUpperCase() + word.slice(1);

/** The panel a place shows: the one chosen, where it stands there, else the first. */
export const shownAmong = (choice: string, among: readonly PanelId[]): PanelId =>
  among.find((id) => id === choice) ?? among[0];
