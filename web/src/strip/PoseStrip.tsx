import type { Shot } from '@varrup/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { keyFrames } from '../commands/channel-paths.ts';
import { still } from '../pictures/pictures.ts';
import { useShot } from '../shot/shot-store.ts';
import { Hint } from '../ui/Hint.tsx';
import { themeNow, useThemeChange } from '../ui/theme.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useView } from '../view/view-store.ts';

const WIDTH = 96;
const HEIGHT = 60;
/** More pictures than this are not told apart at a glance; the strip then shows every so many. */
const MOST = 60;

/** The shot's key poses as a row of small pictures. */
export function PoseStrip() {
  const shot = useShot((s) => s.shot);
  const committed = useShot((s) => s.committed);
  const selection = useView((v) => v.selection);
  const settled = usePlayhead((p) => p.settled);
  const frames = useMemo(() => (shot ? thinned(posesOf(shot, selection)) : []), [shot, selection]);
  if (!shot || !committed) return null;
  return (
    <nav
      aria-label="Pose strip"
      className="flex h-full items-center gap-2 overflow-x-auto overflow-y-hidden border-t border-rule bg-paper px-3"
    >
      {frames.length === 0 ? (
        <p className="text-sm text-graphite">Key poses appear here as pictures, one for each frame that has keys.</p>
      ) : null}
      {frames.map((frame) => (
        <Pose key={frame} shot={committed} frame={frame} here={Math.abs(settled - frame) < 1e-6} />
      ))}
    </nav>
  );
}

/** Frames with keys: of what is picked where that has some, else of everybody. */
function posesOf(shot: Shot, selection: readonly string[]): number[] {
  const own = keyFrames(shot, selection);
  return own.length > 0 ? own : keyFrames(shot, []);
}

function thinned(frames: number[]): number[] {
  if (frames.length <= MOST) return frames;
  const stride = frames.length / MOST;
  return Array.from({ length: MOST }, (_, i) => frames[Math.floor(i * stride)]);
}

function Pose({ shot, frame, here }: { shot: Shot; frame: number; here: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const [theme, setTheme] = useState(themeNow());
  useThemeChange(() => setTheme(themeNow()));
  useEffect(() => {
    if (here) button.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [here]);
  useEffect(() => {
    let wanted = true;
    // An edit every few moments must not ask for a new strip every time.
    const wait = setTimeout(async () => {
      const bitmap = await still(shot, frame, { width: WIDTH * 2, height: HEIGHT * 2, theme }).catch(() => null);
      if (wanted && bitmap && canvas.current) {
        canvas.current.getContext('bitmaprenderer')?.transferFromImageBitmap(bitmap);
        canvas.current.dataset.drawn = 'yes';
      }
    }, 250);
    return () => {
      wanted = false;
      clearTimeout(wait);
    };
  }, [shot, frame, theme]);
  return (
    <Hint text={`Go to frame ${frame}`} side="top">
      <button
        ref={button}
        type="button"
        aria-label={`Key pose at frame ${frame}`}
        aria-current={here ? 'true' : undefined}
        onClick={() => usePlayhead.getState().go(frame)}
        className={`relative shrink-0 overflow-hidden rounded-lg border-2 bg-card ${here ? 'border-vermilion' : 'border-rule hover:border-graphite'}`}
      >
        <canvas
          ref={canvas}
          width={WIDTH * 2}
          height={HEIGHT * 2}
          style={{ width: WIDTH, height: HEIGHT }}
          className="block"
        />
        <span className="tabular absolute bottom-0 left-0 rounded-tr-md bg-card/85 px-1 text-xs font-medium">
          {Math.round(frame * 100) / 100}
        </span>
      </button>
    </Hint>
  );
}
