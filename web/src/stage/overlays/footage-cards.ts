import { type Footage, pictureAt, type Trace } from '@varrup/core';
import * as THREE from 'three';
import { borrowFilm, type Shown } from '../../footage/films.ts';
import { tracesOf } from '../../footage/marks.ts';
import { colour } from '../../ui/theme.ts';
import type { Moment } from '../moment.ts';
import type { Overlay } from './overlay.ts';

/** Pixels of a card's picture, in width. */
const WIDE = 720;

/** A place on the picture of footage, in the space of its card: the middle of its lower edge is its origin, metres. */
export function onCard({ card, width, height }: Footage, [x, y]: readonly [number, number]): THREE.Vector3 {
  const place = new THREE.Vector3((x - 0.5) * card.wide, (height / width - y) * card.wide, 0);
  return place.applyAxisAngle(new THREE.Vector3(0, 1, 0), card.turn).add(new THREE.Vector3(...card.at));
}

/** A card is made anew where what it shows is another film, or another run. */
const keyOf = ({ id, media, pictures }: Footage): string => `${id} ${media} ${pictures.length}`;

/** A card with what it shows. */
class Card {
  readonly group = new THREE.Group();
  readonly #canvas = document.createElement('canvas');
  readonly #texture = new THREE.CanvasTexture(this.#canvas);
  readonly #face = new THREE.Mesh(
    new THREE.PlaneGeometry(1, 1).translate(0, 0.5, 0),
    new THREE.MeshBasicMaterial({ map: this.#texture, transparent: true, side: THREE.DoubleSide, depthWrite: false }),
  );
  readonly #lines = new THREE.Group();
  readonly #film: Shown;
  readonly #end: () => void;
  #shown: number | null = -1;
  #traces: readonly Trace[] = [];
  #of: Footage | null = null;

  constructor(footage: Footage, onPicture: () => void) {
    const { film, end } = borrowFilm(footage, onPicture);
    this.#film = film;
    this.#end = end;
    this.#canvas.width = WIDE;
    this.#canvas.height = Math.round((WIDE * footage.height) / footage.width);
    this.#texture.colorSpace = THREE.SRGBColorSpace;
    this.group.add(this.#face, this.#lines);
  }

  show(footage: Footage, picture: number | null, traces: readonly Trace[]): void {
    const { card, strength } = footage;
    this.#face.position.set(...card.at);
    this.#face.rotation.y = card.turn;
    this.#face.scale.set(card.wide, (card.wide * footage.height) / footage.width, 1);
    (this.#face.material as THREE.MeshBasicMaterial).opacity = strength;
    this.#face.visible = picture !== null;
    if (picture !== null && picture !== this.#shown) {
      const image = this.#film.pictureNow(picture);
      if (image) {
        this.#canvas.getContext('2d')!.drawImage(image, 0, 0, this.#canvas.width, this.#canvas.height);
        this.#texture.needsUpdate = true;
        this.#shown = picture;
      }
    }
    const same = this.#of === footage && traces.length === this.#traces.length;
    if (same && traces.every((t, i) => t === this.#traces[i])) return;
    this.#of = footage;
    this.#traces = traces;
    this.#layLines(footage, traces);
  }

  #layLines(footage: Footage, traces: readonly Trace[]): void {
    this.#clearLines();
    for (const trace of traces) {
      const places = trace.dots.map((dot) => onCard(footage, dot.at));
      const geometry = new THREE.BufferGeometry().setFromPoints(places);
      const tint = colour({ left: 'teal', right: 'plum', centre: 'ochre' }[trace.side]);
      this.#lines.add(
        new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: tint })),
        new THREE.Points(geometry, new THREE.PointsMaterial({ color: tint, size: 5, sizeAttenuation: false })),
      );
    }
  }

  #clearLines(): void {
    for (const line of this.#lines.children as (THREE.Line | THREE.Points)[]) {
      line.geometry.dispose();
      (line.material as THREE.Material).dispose();
    }
    this.#lines.clear();
  }

  dispose(): void {
    this.#end();
    this.#clearLines();
    this.#texture.dispose();
    this.#face.geometry.dispose();
    (this.#face.material as THREE.Material).dispose();
  }
}

/** Footage on cards in the scene, with the ways of what is followed on it. It stands among the bodies: behind whoever stands before it. */
export class FootageCards implements Overlay {
  readonly scene = new THREE.Scene();
  readonly amongBodies = true;
  readonly #cards = new Map<string, Card>();
  readonly #redraw: () => void;

  /** @param redraw asks for a drawing, when a picture has come */
  constructor(redraw: () => void) {
    this.#redraw = redraw;
  }

  show({ shot, frame }: Moment): void {
    const wanted = shot.footage.values().filter((footage) => footage.shown === 'card');
    const ids = new Set(wanted.map(keyOf));
    for (const [id, card] of this.#cards) {
      if (ids.has(id)) continue;
      this.scene.remove(card.group);
      card.dispose();
      this.#cards.delete(id);
    }
    for (const footage of wanted) {
      const id = keyOf(footage);
      const card = this.#cards.get(id) ?? new Card(footage, this.#redraw);
      if (!this.#cards.has(id)) this.scene.add(card.group);
      this.#cards.set(id, card);
      card.show(footage, pictureAt(footage, frame.at, shot.rate), tracesOf(shot, footage.id));
    }
    this.scene.visible = this.#cards.size > 0;
  }

  dispose(): void {
    for (const card of this.#cards.values()) card.dispose();
    this.#cards.clear();
  }
}
