import {
  type Capture,
  type CaptureChannel,
  type CaptureJoint,
  captureWidth,
  columnsOf,
  type Offset,
} from './capture.ts';

/** Digits after the point: a thousandth of a millimetre of a file in metres, and a millionth of a degree. */
const DIGITS = 6;

const number = (value: number) => {
  const text = value.toFixed(DIGITS);
  return Number(text) === 0 ? (0).toFixed(DIGITS) : text;
};
const offset = (values: Offset) => `OFFSET ${values.map(number).join(' ')}`;
const spelled = (channel: CaptureChannel) =>
  `${channel.slice(5).toUpperCase()}${channel.startsWith('move') ? 'position' : 'rotation'}`;

/** Writes a capture as BVH, which {@link readBvh} reads. Names are written without white space, which the format takes for their end. */
export function writeBvh({ joints, rate, frames, values }: Capture): string {
  const children = joints.map((): number[] => []);
  joints.forEach(({ parent }, j) => {
    if (parent >= 0) children[parent].push(j);
  });
  const lines = ['HIERARCHY'];
  /** The joints as the file has them, each after its parent and before its parent's next child: their numbers stand so as well. */
  const order: number[] = [];
  const write = (j: number, depth: number): void => {
    const joint = joints[j];
    order.push(j);
    const indent = '\t'.repeat(depth);
    const inner = `${indent}\t`;
    lines.push(
      `${indent}${depth === 0 ? 'ROOT' : 'JOINT'} ${plain(joint)}`,
      `${indent}{`,
      `${inner}${offset(joint.offset)}`,
    );
    lines.push(`${inner}${['CHANNELS', joint.channels.length, ...joint.channels.map(spelled)].join(' ')}`);
    for (const child of children[j]) write(child, depth + 1);
    // A joint that carries nobody needs an end, or it has no length.
    if (children[j].length === 0)
      lines.push(`${inner}End Site`, `${inner}{`, `${inner}\t${offset(joint.end ?? [0, 0, 0])}`, `${inner}}`);
    lines.push(`${indent}}`);
  };
  joints.forEach(({ parent }, j) => {
    if (parent < 0) write(j, 0);
  });
  lines.push('MOTION', `Frames: ${frames}`, `Frame Time: ${(1 / rate).toFixed(8)}`);
  const width = captureWidth(joints);
  const columns = columnsOf(joints);
  const placed = order.flatMap((j) => joints[j].channels.map((_, c) => columns[j] + c));
  for (let f = 0; f < frames; f++) lines.push(placed.map((column) => number(values[f * width + column])).join(' '));
  return `${lines.join('\n')}\n`;
}

const plain = ({ name }: CaptureJoint) => name.trim().replace(/\s+/g, '_') || 'joint';
