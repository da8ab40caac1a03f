import { type Frame, packPoints, type Stroke } from '@varrup/core';

/** Panels of a board drawn from how a figure stands in a shot: a few lines with a pencil, as one would draw them before there is any shot. */

type Point = readonly [x: number, y: number];

/** From the world to the picture of a panel: metres across, as wide as the picture shows, seen from the side. */
const WIDE = 4.4;
const MIDDLE = 1.05;
const FLOOR = 0.485;
const onPanel = (x: number, y: number): Point => [0.5 + (x - MIDDLE) / WIDE, FLOOR - y / WIDE];

/** A hand that draws is never quite steady: so much it is off, in widths of the picture. */
const UNSTEADY = 0.0016;

export class Drawing {
  readonly strokes: Stroke[] = [];
  readonly #on: string;
  #seed: number;

  constructor(on: string) {
    this.#on = on;
    this.#seed = [...on].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7) % 2_147_483_647;
  }

  #off(): number {
    this.#seed = (this.#seed * 16_807) % 2_147_483_647;
    return (this.#seed / 2_147_483_647 - 0.5) * 2 * UNSTEADY;
  }

  /** A line through places of the world, harder in its middle than at its ends. */
  line(places: readonly Point[], more: Partial<Pick<Stroke, 'tool' | 'tint' | 'wide' | 'sheet'>> = {}): void {
    const points: number[] = [];
    const steps = 6;
    // The hand is off where it changes its way; between it goes on evenly.
    const shaken = places.map(([x, y]): Point => {
      const [px, py] = onPanel(x, y);
      return [px + this.#off(), py + this.#off()];
    });
    for (let i = 0; i + 1 < shaken.length; i++)
      for (let k = 0; k < steps; k++) {
        const t = k / steps;
        points.push(
          shaken[i][0] + (shaken[i + 1][0] - shaken[i][0]) * t,
          shaken[i][1] + (shaken[i + 1][1] - shaken[i][1]) * t,
          0,
        );
      }
    points.push(...shaken[shaken.length - 1], 0);
    const count = points.length / 3;
    for (let i = 0; i < count; i++) points[i * 3 + 2] = 0.35 + 0.5 * Math.sin((Math.PI * (i + 0.5)) / count);
    const number = this.strokes.length + 1;
    this.strokes.push({
      id: `${this.#on}-line${number}`,
      on: this.#on,
      sheet: 1,
      place: number,
      tool: 'pencil',
      tint: 'graphite',
      wide: 0.007,
      ...more,
      points: packPoints(points),
    });
  }

  round(middle: Point, wide: number, high: number, more: Parameters<Drawing['line']>[1] = {}): void {
    const places = Array.from({ length: 15 }, (_, i): Point => {
      const a = (i / 14) * 2 * Math.PI + 0.6;
      return [middle[0] + wide * Math.cos(a), middle[1] + high * Math.sin(a)];
    });
    this.line(places, more);
  }
}

/** Where a joint of a rig is, seen from the side. */
export function jointAt(frame: Frame, rig: string, joint: string): Point {
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get(rig)!)!;
  const at = (placed.joints + placed.compiled.jointAt.get(joint)!) * 16;
  return [frame.world[at + 12], frame.world[at + 13]];
}

/** Draws a two-legged figure as it stands at a frame. */
export function drawFigure(drawing: Drawing, frame: Frame, rig: string): void {
  const at = (joint: string) => jointAt(frame, rig, joint);
  const head = at('head');
  const foot = (m: string): Point[] => {
    const [x, y] = at(`foot${m}`);
    const toes = at(`toes${m}`);
    return [at('hips'), at(`shin${m}`), [x, y], [toes[0] + 0.06, Math.max(0.01, toes[1] - 0.03)]];
  };
  drawing.line(foot('L'), { wide: 0.006 });
  drawing.line(foot('R'), { wide: 0.009 });
  drawing.line([at('hips'), at('spine2'), at('neck')], { wide: 0.011 });
  for (const m of ['L', 'R'] as const)
    drawing.line([at(`arm${m}`), at(`forearm${m}`), at(`hand${m}`)], { wide: m === 'R' ? 0.007 : 0.005 });
  drawing.round([head[0] + 0.02, head[1] + 0.1], 0.1, 0.12);
  drawing.line(
    [
      [head[0] - 0.09, head[1] + 0.17],
      [head[0] + 0.03, head[1] + 0.24],
      [head[0] + 0.13, head[1] + 0.15],
      [head[0] + 0.2, head[1] + 0.15],
    ],
    { tint: 'vermilion', wide: 0.009 },
  );
}
