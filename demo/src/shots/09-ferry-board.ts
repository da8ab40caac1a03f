import {
  addMember,
  channelPath,
  channelValue,
  emptyShot,
  type NewMember,
  newMember,
  type PlainKind,
  type Point,
  placePivots,
  type Quaternion,
  quaternionAbout,
  quaternionMultiply,
  quaternionNormal,
  removeStill,
  type Shot,
  turnTogether,
  withHandleKind,
  withKey,
} from '@varrup/core';
import { paints, pictureOn } from '../ferry-picture.ts';
import { bollard } from '../set-pieces.ts';

/**
 * A 4 × 4 board of picture blocks stands on the quay, its picture scrambled. Rows, columns and quarters come forward, turn a
 * quarter and go back, a dozen times, and then the ferry is there.
 */
export const BLOCKS = 4;
const SIZE = 0.22;
const PITCH = 0.226;
const MIDDLE = 0.98;
/** Far enough forward that no corner of what turns touches what stays. */
const FORWARD = 0.29;

/** Frames: the first turn, one turn after another, and the parts of one. */
const FIRST = 19;
export const EACH = 18;
const GATHERED = 3;
const OUT = 7;
const TURNED = 14;
const PRESSED = 17;

type Group = (column: number, row: number) => boolean;
interface Turn {
  readonly group: Group;
  readonly axis: Point;
  readonly quarters: 1 | -1;
}

const row = (n: number, quarters: 1 | -1): Turn => ({ group: (_, r) => r === n, axis: [1, 0, 0], quarters });
const column = (n: number, quarters: 1 | -1): Turn => ({ group: (c) => c === n, axis: [0, 1, 0], quarters });
/** Two by two blocks, from their lower left one on. */
const quarter = (c0: number, r0: number, quarters: 1 | -1): Turn => ({
  group: (c, r) => c >= c0 && c < c0 + 2 && r >= r0 && r < r0 + 2,
  axis: [0, 0, 1],
  quarters,
});

/** The turns, from the scrambled board to the picture. */
export const turns: readonly Turn[] = [
  quarter(0, 2, 1),
  row(1, -1),
  column(3, 1),
  quarter(1, 1, -1),
  column(0, -1),
  row(3, 1),
  quarter(2, 0, 1),
  row(0, 1),
  quarter(2, 2, -1),
  column(1, -1),
  quarter(0, 0, 1),
  quarter(1, 1, 1),
];

const LAST = FIRST + EACH * turns.length + 34;

interface Cell {
  readonly column: number;
  readonly row: number;
}
/** A block on its way: where it is now and how it is turned. */
interface Placed {
  readonly home: Cell;
  readonly cell: Cell;
  readonly turned: Quaternion;
}

const idOf = ({ home }: Placed) => `block-${home.column}-${home.row}`;
const cells: readonly Cell[] = Array.from({ length: BLOCKS * BLOCKS }, (_, i) => ({
  column: i % BLOCKS,
  row: Math.floor(i / BLOCKS),
}));
const placeOf = (c: Cell): Point => [
  (c.column - (BLOCKS - 1) / 2) * PITCH,
  MIDDLE + (c.row - (BLOCKS - 1) / 2) * PITCH,
  0,
];

/** The board after one more turn. */
function turnedBy(board: readonly Placed[], { group, axis, quarters }: Turn): Placed[] {
  const moving = cells.filter((c) => group(c.column, c.row));
  const mid = (key: keyof Cell) => moving.reduce((sum, c) => sum + c[key], 0) / moving.length;
  const [mc, mr] = [mid('column'), mid('row')];
  const by = quaternionAbout(axis, (quarters * Math.PI) / 2);
  return board.map((block) => {
    const { cell } = block;
    if (!group(cell.column, cell.row)) return block;
    // About z the blocks of a quarter change places; about its own length a row or a column stays where it is.
    const [dc, dr] = [cell.column - mc, cell.row - mr];
    const next = axis[2] === 0 ? cell : { column: mc - quarters * dr, row: mr + quarters * dc };
    return { ...block, cell: next, turned: quaternionNormal(quaternionMultiply(by, block.turned)) };
  });
}

const back = (turn: Turn): Turn => ({ ...turn, quarters: turn.quarters === 1 ? -1 : 1 });

/** The board as it is before the first turn: the picture, with all turns taken back. */
const scrambled = (): Placed[] =>
  turns.reduceRight<Placed[]>(
    (board, turn) => turnedBy(board, back(turn)),
    cells.map((cell) => ({ home: cell, cell, turned: [0, 0, 0, 1] })),
  );

const HALF = (BLOCKS * PITCH) / 2 + 0.012;
const RIM = 0.05;
const wood = '#7d5a3a';
const rim = (id: string, name: string, width: number, height: number, x: number, y: number): NewMember => ({
  kind: 'box',
  id,
  name,
  parent: 'stand',
  shape: { width, height, depth: 0.26 },
  values: { 'move.x': x, 'move.y': y, 'move.z': -0.035 },
  colour: '#8a6440',
});

const set: NewMember[] = [
  { kind: 'group', id: 'set', name: 'Quay at dusk', locked: true },
  { kind: 'plane', id: 'floor', name: 'Quay', parent: 'set', shape: { width: 16, depth: 9 }, colour: '#e2d9c8' },
  {
    kind: 'box',
    id: 'wall',
    name: 'Harbour wall',
    parent: 'set',
    shape: { width: 16, height: 1.05, depth: 0.3 },
    values: { 'move.z': -2.2 },
    colour: '#a8b0ac',
  },
  { kind: 'group', id: 'stand', name: 'Board stand', parent: 'set' },
  {
    kind: 'box',
    id: 'board-back',
    name: 'Board back',
    parent: 'stand',
    shape: { width: 2 * HALF, height: 2 * HALF, depth: 0.03 },
    values: { 'move.y': MIDDLE - HALF, 'move.z': -SIZE / 2 - 0.035 },
    colour: '#4e3b2a',
  },
  rim('rim-left', 'Left rim', RIM, 2 * HALF, -HALF - RIM / 2, MIDDLE - HALF),
  rim('rim-right', 'Right rim', RIM, 2 * HALF, HALF + RIM / 2, MIDDLE - HALF),
  rim('rim-top', 'Top rim', 2 * (HALF + RIM), RIM, 0, MIDDLE + HALF),
  rim('rim-foot', 'Foot rim', 2 * (HALF + RIM), RIM, 0, MIDDLE - HALF - RIM),
  ...[-1, 1].map(
    (side): NewMember => ({
      kind: 'box',
      id: side < 0 ? 'leg-left' : 'leg-right',
      name: side < 0 ? 'Left leg' : 'Right leg',
      parent: 'stand',
      shape: { width: 0.06, height: MIDDLE - HALF - RIM, depth: 0.14 },
      values: { 'move.x': side * (HALF - 0.1), 'move.z': -0.06 },
      colour: wood,
    }),
  ),
  {
    kind: 'box',
    id: 'sill',
    name: 'Sill',
    parent: 'stand',
    shape: { width: 2 * HALF + 0.2, height: 0.06, depth: 0.5 },
    values: { 'move.z': -0.06 },
    colour: wood,
  },
  ...bollard('set', [1.15, 0, -0.7]),
  {
    kind: 'camera',
    id: 'camera',
    name: 'Board camera',
    values: { 'move.x': 0.8, 'move.y': 1.1, 'move.z': 3.1, 'turn.y': 0.253, 'turn.x': -0.05, view: 0.46 },
  },
];

/** Woods of the blocks: no two neighbours are quite alike. */
const woods = ['#b58d5c', '#ab8252', '#bd9766', '#a67c4f'];

function withBlocks(shot: Shot, board: readonly Placed[]): Shot {
  return board.reduce((next, block) => {
    const { home, cell } = block;
    const [x, y, z] = placeOf(cell);
    const made = newMember(next, {
      kind: 'block',
      id: idOf(block),
      name: `Block ${home.column + 1}.${home.row + 1}`,
      shape: { size: SIZE, picture: pictureOn(home.column, home.row, BLOCKS), paints },
      values: { 'move.x': x, 'move.y': y, 'move.z': z },
      colour: woods[(home.column * 3 + home.row * 2) % woods.length],
    });
    return addMember.apply(next, { member: { ...made, rotation: 'orientation', orientation: block.turned } });
  }, shot);
}

/** One turn: a small gather into the board, forward, round, back, and a press into place. */
function turnedInShot(shot: Shot, ids: readonly string[], turn: Turn, middle: Point, start: number): Shot {
  const standing = placePivots.apply(shot, { ids, pivot: middle, frame: start });
  const lifted = ids.reduce((next, id) => {
    const path = channelPath(id, 'move.z');
    const rest = channelValue(next, path, start) as number;
    return [
      [0, 0, 'flat'],
      [GATHERED, -0.012, 'flat'],
      [OUT, FORWARD, 'flat'],
      [TURNED, FORWARD, 'flat'],
      [PRESSED, -0.005, 'flat'],
      [EACH, 0, 'flat'],
    ].reduce(
      (s, [frame, by, kind]) => keyed(s, path, start + Number(frame), rest + Number(by), kind as PlainKind),
      next,
    );
  }, standing);
  return turnTogether.apply(lifted, {
    ids,
    pivot: [middle[0], middle[1], middle[2] + FORWARD],
    axis: turn.axis,
    angle: (turn.quarters * Math.PI) / 2,
    from: start + OUT,
    to: start + TURNED,
  });
}

function keyed(shot: Shot, path: string, frame: number, value: number, kind: PlainKind): Shot {
  const old = shot.curves.get(path);
  const curve = withKey(old?.type === 'number' ? old : undefined, frame, value);
  return { ...shot, curves: shot.curves.with(path, withHandleKind(curve, frame, 'both', kind)) };
}

/** The shot as the demo loads it. */
export function ferryBoard(): Shot {
  const empty: Shot = {
    ...emptyShot('ferry-board', '09 Ferry board'),
    range: { first: 1, last: LAST },
    play: { first: 1, last: LAST },
  };
  let board = scrambled();
  let shot = set.reduce((next, wanted) => addMember.apply(next, { member: newMember(next, wanted) }), empty);
  shot = withBlocks(shot, board);
  turns.forEach((turn, i) => {
    const moving = board.filter(({ cell }) => turn.group(cell.column, cell.row));
    const places = moving.map(({ cell }) => placeOf(cell));
    const middle = [0, 1, 2].map((axis) => places.reduce((sum, p) => sum + p[axis], 0) / places.length);
    shot = turnedInShot(shot, moving.map(idOf), turn, [middle[0], middle[1], middle[2]], FIRST + i * EACH);
    board = turnedBy(board, turn);
  });
  // Pivots that never left their place need no keys.
  return removeStill.apply(shot, { paths: shot.curves.keys() });
}
