import {
  changePanel,
  PANEL_ASPECT,
  type Panel,
  type PanelFrame,
  type PanelRun,
  panelAt,
  panelFrameAt,
  panelShare,
  type Shot,
} from '@varrup/core';
import { Focus, Layers, Plus } from 'lucide-react';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { DrawingSheets, DrawingTools } from '../drawing/DrawingTools.tsx';
import { useDrawing } from '../drawing/drawing-tool.ts';
import { useStrokes } from '../drawing/use-strokes.ts';
import { HelpMark } from '../help/HelpMark.tsx';
import { useImages } from '../media/images.ts';
import { usePreview } from '../shot/use-preview.ts';
import { useCanvas } from '../timeline/use-canvas.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { runsOf, useBoardView } from './board-view.ts';
import { PanelPictures } from './panel-picture.ts';

/** Pixels a panel is drawn with on the table. */
const WIDTH = 1_280;
const pictures = new PanelPictures(WIDTH);

/** The table one draws on: the panel that stands on the current frame, with its tools above it. While the board plays it shows that. */
export function DrawingTable({ shot }: { shot: Shot }) {
  const runs = runsOf(shot);
  return (
    <section
      aria-label="Drawing table"
      data-explained="Drawing table"
      className="absolute inset-0 z-10 flex flex-col bg-paper"
    >
      <div
        role="toolbar"
        aria-label="Tools for drawing"
        className="flex min-h-9 shrink-0 flex-wrap items-center gap-x-3 border-b border-rule bg-card px-2"
      >
        <DrawingTools />
        <DrawingSheets />
        <Views />
        <span className="grow" />
        <HelpMark of="Drawing table" />
      </div>
      {runs.length === 0 ? <NoPanels /> : <Table shot={shot} runs={runs} />}
    </section>
  );
}

function NoPanels() {
  return (
    <div className="grid min-h-0 grow place-items-center">
      <div className="max-w-md text-center">
        <p className="text-lg font-semibold">An empty board.</p>
        <p className="mt-1 text-graphite">
          A panel is one picture of the plan: drawn right here, a still, or words only, and how long it stands.
        </p>
        <Button look="solid" className="mt-4" onClick={() => commandOf('panel.add').run()}>
          <span className="flex items-center gap-1.5">
            <Plus size={15} /> Put the first panel on the board
          </span>
        </Button>
      </div>
    </div>
  );
}

function Views() {
  const onion = useDrawing((d) => d.onion);
  const asCamera = useBoardView((b) => b.asCamera);
  return (
    <span className="flex shrink-0 items-center gap-0.5">
      <Hint text={commandOf('draw.onion').label} keys={shortcutOf('draw.onion')}>
        <Button className="h-6! text-sm" aria-pressed={onion} onClick={() => commandOf('draw.onion').run()}>
          <span className="flex items-center gap-1">
            <Layers size={13} /> <span className="max-2xl:sr-only">onion</span>
          </span>
        </Button>
      </Hint>
      <Hint text={commandOf('board.camera').label} keys={shortcutOf('board.camera')}>
        <Button className="h-6! text-sm" aria-pressed={asCamera} onClick={() => commandOf('board.camera').run()}>
          <span className="flex items-center gap-1">
            <Focus size={13} /> <span className="max-2xl:sr-only">through the camera</span>
          </span>
        </Button>
      </Hint>
    </span>
  );
}

function Table({ shot, runs }: { shot: Shot; runs: readonly PanelRun[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const settled = usePlayhead((p) => p.settled);
  const playing = usePlayhead((p) => p.playing);
  const drawing = useDrawing();
  const asCamera = useBoardView((b) => b.asCamera);
  const images = useImages((s) => s.images);
  const run = panelAt(runs, settled)!;
  const through = asCamera || playing;

  const ask = useCanvas(canvas, (element) => {
    const context = element.getContext('2d')!;
    const now = panelAt(runs, usePlayhead.getState().frame)!;
    const frame = through ? panelFrameAt(now.panel, panelShare(usePlayhead.getState().frame, now)) : undefined;
    pictures.onto(context, shot, now.panel, { hidden: playing ? [] : drawing.hidden, frame });
    const before = runs[now.index - 1];
    if (drawing.onion && !playing && before) {
      context.save();
      context.globalAlpha = 0.28;
      pictures.rasterOf(shot, before.panel.id).onto(context);
      context.restore();
    }
    element.dataset.panel = now.panel.id;
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen has changed.
  useEffect(ask, [ask, shot, drawing, through, settled, images]);
  useEffect(() => usePlayhead.subscribe((now, old) => now.frame !== old.frame && ask()), [ask]);

  const { id } = run.panel;
  const paper = useMemo(
    () => ({
      on: id,
      sheet: drawing.sheet,
      live(stroke: Parameters<ReturnType<typeof pictures.rasterOf>['live']>[0]) {
        pictures.rasterOf(shot, id).live(stroke, drawing.sheet);
        ask();
      },
    }),
    [id, drawing.sheet, shot, ask],
  );
  const { keys, hands } = useStrokes(through ? null : paper);
  const box = useFitted();
  return (
    <div ref={box.around} className="relative grid min-h-0 grow place-items-center overflow-hidden p-4">
      <div
        className="relative bg-[#fbf8f1] shadow-[0_1px_10px_rgb(0_0_0/0.18)] dark-paper"
        style={{ width: box.width, height: box.width / PANEL_ASPECT }}
      >
        {/* biome-ignore lint/a11y/noInteractiveElementToNoninteractiveRole: it is drawn on by hand and by keys, which no other role says. */}
        <canvas
          ref={canvas}
          width={WIDTH}
          height={WIDTH / PANEL_ASPECT}
          tabIndex={0}
          role="application"
          aria-roledescription="drawing"
          aria-label={`Panel ${run.index + 1} of ${runs.length}. Arrow keys move the pencil, Enter puts it down and takes it up.`}
          className={`peer absolute inset-0 size-full touch-none outline-offset-2 ${through ? '' : 'cursor-crosshair'}`}
          {...hands}
        />
        {keys.down || !through ? <KeyCursor x={keys.x} y={keys.y} down={keys.down} /> : null}
        {through ? null : <CameraFrames shot={shot} panel={run.panel} width={box.width} />}
      </div>
    </div>
  );
}

/** Where the pencil is that keys move; it is seen while the drawing has the focus. */
const KeyCursor = ({ x, y, down }: { x: number; y: number; down: boolean }) => (
  <span
    aria-hidden
    className={`pointer-events-none absolute size-3 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-blue opacity-0 peer-focus-visible:opacity-100 ${down ? 'bg-blue' : ''}`}
    style={{ left: `${x * 100}%`, top: `${y * PANEL_ASPECT * 100}%` }}
  />
);

/** As wide as fits, with the picture's shape. */
function useFitted() {
  const around = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(480);
  useEffect(() => {
    const element = around.current;
    if (!element) return;
    const fit = () =>
      setWidth(Math.max(160, Math.min(element.clientWidth - 32, (element.clientHeight - 32) * PANEL_ASPECT)));
    const watch = new ResizeObserver(fit);
    watch.observe(element);
    fit();
    return () => watch.disconnect();
  }, []);
  return { around, width };
}

/** What the camera sees of a panel, where it begins and where it goes: drawn as two frames, which are dragged by their edges and corners. */
function CameraFrames({ shot, panel, width }: { shot: Shot; panel: Panel; width: number }) {
  const { camera } = panel;
  if (!camera) return null;
  return (
    <>
      <CameraFrame shot={shot} panel={panel} end="from" frame={camera.from} width={width} />
      {camera.to ? <CameraFrame shot={shot} panel={panel} end="to" frame={camera.to} width={width} /> : null}
    </>
  );
}

function CameraFrame({
  panel,
  end,
  frame,
  width,
}: {
  shot: Shot;
  panel: Panel;
  end: 'from' | 'to';
  frame: PanelFrame;
  width: number;
}) {
  const preview = usePreview('camera of a panel');
  const drag = useRef<{ x: number; y: number; frame: PanelFrame; size: boolean } | null>(null);
  const high = frame.wide / PANEL_ASPECT;
  const put = (next: PanelFrame) =>
    preview.show(changePanel, { id: panel.id, change: { camera: { ...panel.camera!, [end]: next } } });
  const move = (event: PointerEvent) => {
    const held = drag.current;
    if (!held) return;
    const [dx, dy] = [(event.clientX - held.x) / width, (event.clientY - held.y) / width];
    put(
      held.size
        ? { ...held.frame, wide: Math.min(3, Math.max(0.02, held.frame.wide + 2 * dx)) }
        : { ...held.frame, x: held.frame.x + dx, y: held.frame.y + dy },
    );
  };
  const begin = (size: boolean) => (event: PointerEvent) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, frame, size };
  };
  const done = () => {
    if (drag.current) preview.keep();
    drag.current = null;
  };
  const word = end === 'from' ? 'begins' : 'ends';
  return (
    <div
      className={`pointer-events-none absolute border-2 ${end === 'from' ? 'border-blue' : 'border-dashed border-ochre'}`}
      style={{
        left: `${(frame.x - frame.wide / 2) * 100}%`,
        top: `${(frame.y - high / 2) * PANEL_ASPECT * 100}%`,
        width: `${frame.wide * 100}%`,
        height: `${frame.wide * 100}%`,
      }}
    >
      <span
        title={`Where the camera ${word}: drag it`}
        onPointerDown={begin(false)}
        onPointerMove={move}
        onPointerUp={done}
        className={`pointer-events-auto absolute -top-0.5 left-0 -translate-y-full cursor-move touch-none rounded px-1.5 text-xs text-on-solid ${end === 'from' ? 'bg-blue' : 'bg-ochre-ink'}`}
      >
        camera {word}
      </span>
      <span
        title={`How much the camera sees where it ${word}: drag it`}
        onPointerDown={begin(true)}
        onPointerMove={move}
        onPointerUp={done}
        className={`pointer-events-auto absolute -right-1.5 -bottom-1.5 size-3 cursor-nwse-resize touch-none rounded-full border-2 border-card ${end === 'from' ? 'bg-blue' : 'bg-ochre'}`}
      />
    </div>
  );
}
