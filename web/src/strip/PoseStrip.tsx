import {
  animatedPaths,
  type KeySelection,
  keyFrames,
  keyIndexAt,
  poseRow,
  posesOnTracks,
  type RetimingPlan,
  rigAmong,
  riggedByTracks,
  type Shot,
} from '@varrup/core';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { HelpMark } from '../help/HelpMark.tsx';
import { still } from '../pictures/pictures.ts';
import { dropPose, POSE_TYPE } from '../poses/pose-drag.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { dragWords, finishDrag, previewDrag, useCollisionKeys } from '../timeline/drag-keys.ts';
import { joinedKeys } from '../timeline/pick-keys.ts';
import { useCancel } from '../timeline/use-cancel.ts';
import { Hint } from '../ui/Hint.tsx';
import { themeNow, useThemeChange } from '../ui/theme.ts';
import { useHabits } from '../view/habits.ts';
import { usePlayhead } from '../view/playhead.ts';
import { pickKeys, useSelection } from '../view/selection.ts';

const WIDTH = 96;
const HEIGHT = 60;
/** More pictures than this are not told apart at a glance; the strip then shows every so many. */
const MOST = 60;

/** A drag this long, in pixels, is a frame: the pictures do not stand as far apart as the poses do. */
const PIXELS_A_FRAME = 8;

interface Press {
  readonly frame: number;
  readonly keys: KeySelection;
  readonly x: number;
  by: number;
  free: boolean;
  copy: boolean;
}

/** The shot's key poses as a row of small pictures: a press goes there and picks the pose's keys, a drag retimes them. */
export function PoseStrip() {
  const committed = useShot((s) => s.committed);
  const selection = useSelection((s) => s.picked);
  const keys = useSelection((s) => s.keys);
  const settled = usePlayhead((p) => p.settled);
  const walk = useMemo(() => (committed ? poseRow(committed, selection) : null), [committed, selection]);
  const tracked = useMemo(() => (committed ? onTracks(committed, selection) : NONE), [committed, selection]);
  const frames = useMemo(() => {
    if (walk) return walk.poses.map((p) => p.frame);
    const own = committed ? keyFrames(committed, selection) : [];
    // Whoever is on tracks has no need of the keys of others.
    const keyed = committed && own.length + tracked.size === 0 ? posesOf(committed, selection) : own;
    return thinned([...new Set([...keyed, ...tracked.keys()])].sort((a, b) => a - b));
  }, [walk, committed, selection, tracked]);
  const preview = usePreview('pose strip');
  const press = useRef<Press | null>(null);
  const plan = useRef<RetimingPlan | null>(null);
  const [dragged, setDragged] = useState<{ frame: number; by: number; note: string } | null>(null);
  const clear = () => {
    plan.current = null;
    setDragged(null);
  };
  const cancel = useCancel(press, preview, clear);
  const show = () => {
    const p = press.current;
    if (!p || !committed) return;
    plan.current = p.by === 0 ? null : previewDrag(preview, p.keys, { how: { kind: 'move', by: p.by }, copy: p.copy });
    if (!plan.current) preview.drop();
    const note = plan.current ? dragWords(plan.current, committed.rate, p.copy) : '';
    const { how } = plan.current ?? { how: { kind: 'move' as const, by: 0 } };
    setDragged({ frame: p.frame, by: how.kind === 'move' ? how.by : 0, note });
  };
  useCollisionKeys(press, show);
  if (!committed) return null;

  const onPointerDown = (event: PointerEvent, frame: number) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const own = keysOnPose(committed, selection, frame);
    // A pose that is one of several picked ones takes the others along.
    const isPicked = Object.keys(own).every((path) => keys[path]?.includes(frame));
    const next = event.shiftKey ? joinedKeys(keys, own) : isPicked ? keys : own;
    pickKeys(next);
    press.current = { frame, keys: next, x: event.clientX, by: 0, free: false, copy: false };
  };
  const onPointerMove = (event: PointerEvent) => {
    const p = press.current;
    if (!p) return;
    const raw = (event.clientX - p.x) / PIXELS_A_FRAME;
    p.by = event.ctrlKey || event.metaKey ? Math.round(raw * 100) / 100 : Math.round(raw);
    p.copy = event.altKey;
    show();
  };
  const onPointerUp = () => {
    const p = press.current;
    press.current = null;
    if (plan.current) finishDrag(preview, plan.current);
    else if (p) usePlayhead.getState().go(p.frame);
    clear();
  };

  return (
    <nav
      aria-label="Pose strip"
      data-explained="Pose strip"
      className="relative flex h-full items-center gap-2 overflow-x-auto overflow-y-hidden border-t border-rule bg-paper px-3"
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes(POSE_TYPE)) event.preventDefault();
      }}
      onDrop={(event) => {
        // On a picture the pose takes that frame; beside them, the frame one is on.
        const onto = (event.target as HTMLElement).closest<HTMLElement>('[data-frame]')?.dataset.frame;
        if (dropPose(event.dataTransfer, onto === undefined ? Math.round(settled) : Number(onto)))
          event.preventDefault();
      }}
    >
      {frames.length === 0 ? (
        <p className="text-sm text-graphite">Key poses appear here as pictures, one for each frame that has keys.</p>
      ) : null}
      {frames.map((frame) => (
        <Pose
          key={frame}
          shot={walk?.shot ?? committed}
          frame={frame}
          word={walk?.poses.find((p) => p.frame === frame)?.pose ?? tracked.get(frame)}
          shown={dragged?.frame === frame ? frame + dragged.by : frame}
          here={Math.abs(settled - frame) < 1e-6}
          onPointerDown={(event) => onPointerDown(event, frame)}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={cancel}
          onPress={() => {
            pickKeys(keysOnPose(committed, selection, frame));
            usePlayhead.getState().go(frame);
          }}
        />
      ))}
      <HelpMark of="Pose strip" className="sticky right-0 ml-auto" />
      {dragged?.note ? (
        <div
          className="pointer-events-none sticky left-3 shrink-0 rounded-md bg-ink px-2 py-1 text-sm text-on-solid"
          role="status"
        >
          {dragged.note}
        </div>
      ) : null}
    </nav>
  );
}

/** The keys that make a pose: on its frame, of what is picked where that has some there, else of everybody. */
function keysOnPose(shot: Shot, selection: readonly string[], frame: number): KeySelection {
  const on = (ids: readonly string[]) =>
    Object.fromEntries(
      animatedPaths(shot, ids)
        .filter((p) => keyIndexAt(shot.curves.at(p).keys, frame) >= 0)
        .map((p) => [p, [frame]]),
    );
  const own = on(selection);
  return Object.keys(own).length > 0 ? own : on(shot.members.keys());
}

/** Frames with keys: of what is picked where that has some, else of everybody. */
function posesOf(shot: Shot, selection: readonly string[]): number[] {
  const own = keyFrames(shot, selection);
  return own.length > 0 ? own : keyFrames(shot, []);
}

const NONE: ReadonlyMap<number, string> = new Map();

/** The poses of the picked rig that its tracks give, or of all that are on tracks: by their frames, with what they are called. */
function onTracks(shot: Shot, selection: readonly string[]): ReadonlyMap<number, string> {
  const rigs = riggedByTracks(shot);
  const picked = rigAmong(shot, selection);
  const meant = picked && rigs.has(picked) ? [picked] : selection.length === 0 ? [...rigs] : [];
  return new Map(meant.flatMap((rig) => posesOnTracks(shot, rig).map((p) => [p.frame, p.word] as const)));
}

function thinned(frames: number[]): number[] {
  if (frames.length <= MOST) return frames;
  const stride = frames.length / MOST;
  return Array.from({ length: MOST }, (_, i) => frames[Math.floor(i * stride)]);
}

interface PoseProps {
  shot: Shot;
  frame: number;
  /** What the pose is called, where it is. */
  word: string | undefined;
  /** The frame it would be on, while it is dragged. */
  shown: number;
  here: boolean;
  onPointerDown: (event: PointerEvent) => void;
  onPointerMove: (event: PointerEvent) => void;
  onPointerUp: () => void;
  onPointerCancel: () => void;
  onPress: () => void;
}

function Pose({ shot, frame, word, shown, here, onPress, ...hands }: PoseProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const [theme, setTheme] = useState(themeNow());
  useThemeChange(() => setTheme(themeNow()));
  useEffect(() => {
    if (here) button.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [here]);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    // Only pictures in view are taken; a long shot has more poses than anybody looks at.
    const watch = new IntersectionObserver(([entry]) => setSeen(entry.isIntersecting), { rootMargin: '120px' });
    if (button.current) watch.observe(button.current);
    return () => watch.disconnect();
  }, []);
  const sketch = useHabits((h) => h.sketch);
  useEffect(() => {
    if (!seen || sketch) return;
    let wanted = true;
    const isWanted = () => wanted;
    const isFirst = canvas.current?.dataset.drawn === undefined;
    // An edit every few moments must not ask for a new strip every time; what has no picture yet does not wait.
    const wait = setTimeout(
      async () => {
        const view = { width: WIDTH * 2, height: HEIGHT * 2, theme };
        const bitmap = await still(shot, frame, view, isWanted).catch(() => null);
        if (wanted && bitmap && canvas.current) {
          canvas.current.getContext('bitmaprenderer')?.transferFromImageBitmap(bitmap);
          canvas.current.dataset.drawn = 'yes';
        }
      },
      isFirst ? 0 : 250,
    );
    return () => {
      wanted = false;
      clearTimeout(wait);
    };
  }, [shot, frame, theme, seen, sketch]);
  return (
    <Hint text={`Go to frame ${frame} and pick its keys. Drag sideways to retime it`} side="top">
      <button
        ref={button}
        type="button"
        data-frame={frame}
        aria-label={`${word ? `${word} pose` : 'Key pose'} at frame ${frame}`}
        aria-current={here ? 'true' : undefined}
        {...hands}
        // The pointer is dealt with above; this is for the keyboard.
        onClick={(event) => event.detail === 0 && onPress()}
        className={`relative shrink-0 touch-none overflow-hidden rounded-lg border-2 bg-card ${here ? 'border-vermilion' : 'border-rule hover:border-graphite'}`}
      >
        <canvas
          ref={canvas}
          width={WIDTH * 2}
          height={HEIGHT * 2}
          style={{ width: WIDTH, height: HEIGHT }}
          className="block"
        />
        <span className="tabular absolute bottom-0 left-0 rounded-tr-md bg-card/85 px-1 text-xs font-medium">
          {Math.round(shown * 100) / 100}
        </span>
        {word ? (
          <span className="absolute right-0 bottom-0 rounded-tl-md bg-card/85 px-1 text-xs text-graphite">{word}</span>
        ) : null}
      </button>
    </Hint>
  );
}
