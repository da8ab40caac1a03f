import { PANEL_ASPECT, panelAt, panelFrameAt, panelShare, type Shot } from '@varrup/core';
import { useEffect, useRef } from 'react';
import { useImages } from '../media/images.ts';
import { useShot } from '../shot/shot-store.ts';
import { useCanvas } from '../timeline/use-canvas.ts';
import { usePlayhead } from '../view/playhead.ts';
import { runsOf, useBoardView } from './board-view.ts';
import { PanelPictures } from './panel-picture.ts';

const WIDTH = 960;
const pictures = new PanelPictures(WIDTH);

/** The panel of the current frame over the stage, as its camera sees it, or small in a corner of it. */
export function PanelOverStage() {
  const shot = useShot((s) => s.shot);
  const over = useBoardView((b) => b.over);
  if (!shot || over === 'off' || shot.panels.size === 0) return null;
  return over === 'over' ? (
    <div className="pointer-events-none absolute inset-0 z-10 grid place-items-center [container-type:size]">
      <div className="aspect-video w-[min(100cqw,100cqh*16/9)]">
        <Seen shot={shot} over />
      </div>
      <Strength />
    </div>
  ) : (
    <div className="pointer-events-none absolute top-2 left-2 z-10 w-[30%] max-w-80 overflow-hidden rounded-lg border border-rule shadow-md">
      <Seen shot={shot} />
    </div>
  );
}

function Seen({ shot, over = false }: { shot: Shot; over?: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const strength = useBoardView((b) => b.strength);
  const images = useImages((s) => s.images);
  const runs = runsOf(shot);
  const ask = useCanvas(canvas, (element) => {
    const { frame } = usePlayhead.getState();
    const now = panelAt(runs, frame);
    if (!now) return;
    element.dataset.panel = now.panel.id;
    const look = { frame: panelFrameAt(now.panel, panelShare(frame, now)) };
    pictures.onto(element.getContext('2d')!, shot, now.panel, look);
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen has changed.
  useEffect(ask, [ask, shot, images]);
  useEffect(() => usePlayhead.subscribe((now, old) => now.frame !== old.frame && ask()), [ask]);
  return (
    <canvas
      ref={canvas}
      width={WIDTH}
      height={WIDTH / PANEL_ASPECT}
      role="img"
      aria-label="The panel of this frame"
      className={`block w-full ${over ? 'mix-blend-multiply' : ''}`}
      style={over ? { opacity: strength } : undefined}
    />
  );
}

function Strength() {
  const strength = useBoardView((b) => b.strength);
  return (
    <label className="pointer-events-auto absolute bottom-3 left-1/2 flex -translate-x-1/2 items-center gap-2 rounded-full bg-card/90 px-3 py-1 text-sm text-graphite shadow">
      panel
      <input
        type="range"
        min={5}
        max={100}
        value={strength * 100}
        aria-label="How strong the panel lies over the stage"
        onChange={(event) => useBoardView.setState({ strength: Number(event.target.value) / 100 })}
      />
    </label>
  );
}
