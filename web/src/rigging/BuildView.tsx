import {
  addJoint,
  asShaped,
  type Build,
  boxOf,
  type Grip,
  type HandMove,
  meantPlace,
  moveJoint,
  Shaping,
  shellOf,
  stretches,
  TriangleTree,
  throughBody,
  type Vector,
} from '@varrup/core';
import { type PointerEvent, type RefObject, useEffect, useMemo, useRef } from 'react';
import { toast } from 'sonner';
import { useThemeChange } from '../ui/theme.ts';
import { BuildScene } from './build-scene.ts';
import { change, endStroke, paintingNow, rigNow, useBuilding } from './build-store.ts';

/** A press that goes further than this, in pixels, is a drag. */
const DRAG = 4;
/** So many pixels are a radian of a turn, or e times the size. */
const HAND = 160;

interface Drag {
  readonly of: 'joint' | 'stroke' | 'press' | 'hand';
  readonly x: number;
  readonly y: number;
  readonly from: Build;
  readonly joint: string | null;
  moved: boolean;
  /** What a hand has taken hold of. */
  readonly held?: { readonly shaping: Shaping; readonly grip: Grip; readonly look: Vector };
}

/** The body with its joints, to look at from all sides, to press joints into and to paint on. */
export function BuildView({ build, scene }: { build: Build; scene: RefObject<BuildScene | null> }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { picked, tints, tool, trying, shape } = useBuilding();
  const drag = useRef<Drag | null>(null);
  const meshes = useMemo(
    () => (shape === null ? build.meshes : build.meshes.map((mesh) => asShaped(mesh, shape, 1))),
    [build.meshes, shape],
  );
  // While a hand draws, the body is pressed where it was.
  const still = drag.current?.of === 'hand' ? drag.current.from.meshes : build.meshes;
  const tree = useMemo(
    () => new TriangleTree(shellOf(shape === null ? still : still.map((mesh) => asShaped(mesh, shape, 1)))),
    [still, shape],
  );
  const trial = useMemo(() => {
    if (trying === null) return null;
    try {
      const rig = rigNow(build, 1, '');
      const values = stretches(rig).find((s) => s.name === trying)?.values;
      return values ? { rig, values } : null;
    } catch {
      return null;
    }
  }, [build, trying]);

  useEffect(() => {
    if (!canvas.current) return;
    const own = new BuildScene(canvas.current);
    scene.current = own;
    const size = new ResizeObserver(([{ contentRect }]) => own.resize(contentRect.width, contentRect.height));
    size.observe(canvas.current.parentElement!);
    return () => {
      size.disconnect();
      own.dispose();
      scene.current = null;
    };
  }, [scene]);
  useThemeChange(() => scene.current?.recolour());
  useEffect(() => {
    scene.current?.show({ build: { ...build, meshes }, picked, tints, glass: tool === 'press', trial });
  }, [scene, build, meshes, picked, tints, tool, trial]);

  const placeOf = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top] as const;
  };
  const onSkin = (x: number, y: number): Vector | null => {
    const { origin, way } = scene.current!.ray(x, y);
    tree.hits(...origin, ...way);
    const nearest = Math.min(...tree.at);
    if (!Number.isFinite(nearest)) return null;
    return [0, 1, 2].map((c) => origin[c] + way[c] * nearest) as unknown as Vector;
  };
  const dab = (x: number, y: number) => {
    const at = onSkin(x, y);
    const { brush, pairs } = useBuilding.getState();
    scene.current?.brush(at, brush.reach);
    if (!at || !picked) return;
    try {
      paintingNow()?.dab({ ...brush, at, joint: picked, pairs });
      scene.current?.tint();
    } catch (error) {
      toast.error((error as Error).message);
      drag.current = null;
    }
  };
  /** Shapes what is held, by how far the hand has gone from where it took hold. */
  const draw = (now: Drag, x: number, y: number) => {
    const { hand } = useBuilding.getState();
    const { shaping, grip, look } = now.held!;
    const [dx, dy] = [(x - now.x) / HAND, (now.y - y) / HAND];
    const to = scene.current!.dragged(grip.at, x, y);
    const by = [0, 1, 2].map((c) => to[c] - grip.at[c]) as unknown as Vector;
    const move: HandMove =
      hand.does === 'pull'
        ? { does: 'pull', by }
        : hand.does === 'turn'
          ? { does: 'turn', axis: look, angle: -dx }
          : hand.does === 'size'
            ? { does: 'size', factor: Math.exp(dx + dy) }
            : { does: 'smooth', strength: Math.min(1, Math.hypot(dx, dy)) };
    try {
      useBuilding.setState({ build: shaping.touched(grip, move) });
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const press = (x: number, y: number) => {
    const { pairs } = useBuilding.getState();
    change('put in a joint', (b) => {
      const { origin, way } = scene.current!.ray(x, y);
      const { middle } = throughBody(tree, origin, way);
      const { min, max } = boxOf(b);
      return addJoint(b, { name: 'joint', parent: picked, place: meantPlace(middle, max[1] - min[1]), pairs });
    });
  };

  const down = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.button !== 0 || trying !== null) return;
    const [x, y] = placeOf(event);
    const near = scene.current?.jointAt(x, y) ?? null;
    event.currentTarget.setPointerCapture(event.pointerId);
    if (tool === 'paint') {
      if (!picked && near) useBuilding.setState({ picked: near });
      if (!picked) {
        if (!near) toast('Pick a joint first: its weights are painted.');
        return;
      }
      drag.current = { of: 'stroke', x, y, from: build, joint: picked, moved: false };
      dab(x, y);
      return;
    }
    if (tool === 'shape') {
      const at = onSkin(x, y);
      if (!at) return;
      const { hand, pairs } = useBuilding.getState();
      const shaping = new Shaping(build, shape);
      const held = { shaping, grip: shaping.hold(at, hand.reach, pairs), look: scene.current!.look };
      drag.current = { of: 'hand', x, y, from: build, joint: null, moved: false, held };
      return;
    }
    if (near) useBuilding.setState({ picked: near });
    drag.current = { of: near ? 'joint' : 'press', x, y, from: build, joint: near, moved: false };
  };
  const move = (event: PointerEvent<HTMLCanvasElement>) => {
    const [x, y] = placeOf(event);
    const now = drag.current;
    const { brush, hand } = useBuilding.getState();
    if (tool === 'paint' && !now) scene.current?.brush(onSkin(x, y), brush.reach);
    if (tool === 'shape' && !now) scene.current?.brush(onSkin(x, y), hand.reach);
    if (!now || (!now.moved && Math.hypot(x - now.x, y - now.y) < DRAG)) return;
    now.moved = true;
    if (now.of === 'stroke') dab(x, y);
    if (now.of === 'hand') draw(now, x, y);
    if (now.of !== 'joint' || !now.joint) return;
    const { place } = now.from.joints.find((j) => j.id === now.joint)!;
    const { pairs } = useBuilding.getState();
    useBuilding.setState({
      build: moveJoint(now.from, now.joint, meant(now.from, scene.current!.dragged(place, x, y)), {
        pairs,
        along: event.shiftKey,
      }),
    });
  };
  const up = () => {
    const now = drag.current;
    drag.current = null;
    if (!now) return;
    if (now.of === 'stroke') endStroke();
    if (now.of === 'press' && !now.moved) {
      if (tool === 'press') press(now.x, now.y);
      else useBuilding.setState({ picked: null });
    }
    if ((now.of === 'joint' || now.of === 'hand') && now.moved) {
      const dragged = useBuilding.getState().build;
      useBuilding.setState({ build: now.from });
      if (dragged)
        change(now.of === 'joint' ? 'move a joint' : `${useBuilding.getState().hand.does} the body`, () => dragged);
    }
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`${build.name} with ${build.joints.length} joints`}
      className={`absolute inset-0 size-full touch-none ${tool === 'pick' ? '' : 'cursor-crosshair'}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        const now = drag.current;
        drag.current = null;
        if (now?.of === 'joint' || now?.of === 'hand') useBuilding.setState({ build: now.from });
      }}
      onPointerLeave={() => scene.current?.brush(null, 0)}
      onContextMenu={(event) => event.preventDefault()}
    />
  );
}

function meant(build: Build, place: Vector): Vector {
  const { min, max } = boxOf(build);
  return meantPlace(place, max[1] - min[1]);
}
