import {
  type ClipSpan,
  duplicateMembers,
  layDown,
  newSpan,
  newTrack,
  Program,
  perform,
  putTrack,
  type Shot,
  spanMoved,
  Table,
  withDescendants,
} from '@varrup/core';
import { nightFerry } from '@varrup/demo';
import { median, report, row } from './row.ts';

/** Rigs whose clips are laid on tracks, against the same rigs with keys; and a span that is drawn from frame to frame. */

const RIGS = 20;
const LAST = 260;

/** The goat, from walk to trot to bound and back: five spans, each over the end of the last by half a second. */
function goatOnTracks(): Shot {
  const shot = nightFerry.shots().find((s) => s.name.startsWith('03'))!;
  const laidBy: Shot = { ...shot, tracks: Table.empty() };
  const names = ['Walk', 'Trot', 'Bound', 'Trot', 'Walk'];
  const spans = names.map((name, i): ClipSpan => {
    const clip = laidBy.clips.values().find((c) => c.name === name)!;
    return newSpan(clip, 1 + i * 48, { id: `span${i}`, length: 60 });
  });
  const track = { ...newTrack(laidBy, 'goat', spans), id: 'body' };
  return {
    ...perform(laidBy, putTrack, { track })!.shot,
    play: { first: 1, last: LAST },
    range: { first: 1, last: LAST },
  };
}

/** The same with as many more rigs of its kind. */
function herd(shot: Shot, count: number): Shot {
  const own = [...withDescendants(shot, ['goat'])];
  let all = shot;
  for (let n = 1; n < count; n++) {
    const copies = Object.fromEntries(own.map((id) => [id, `${id.slice(0, 30)}-${n}`]));
    all = duplicateMembers.apply(all, { ids: ['goat'], copies });
  }
  return all;
}

/** Evaluates one frame after another, round and round. */
function playing(shot: Shot): () => void {
  const program = new Program(shot);
  const frame = program.createFrame();
  let at = 0;
  return () => {
    at = (at + 1) % LAST;
    program.evaluate(1 + at, frame);
  };
}

const within = { metres: 5e-4, radians: Math.PI / 1800 };
const one = goatOnTracks();
const many = herd(one, RIGS);
const keyed = many.members
  .values()
  .filter((m) => m.kind === 'rig')
  .reduce((shot, rig) => perform(shot, layDown, { rig: rig.id, within })!.shot, many);

/** A span drawn one frame to and fro: what is shown of it has been worked out nowhere. */
function drawing(shot: Shot): () => void {
  const program = new Program(shot);
  const frame = program.createFrame();
  const track = shot.tracks.at('body');
  let at = 0;
  return () => {
    at = (at + 1) % 7;
    const moved = spanMoved(track, 'span2', 97 + at);
    program.update(putTrack.apply(shot, { track: moved }));
    program.evaluate(100, frame);
  };
}

report([
  row(
    '20 rigs on tracks of five spans, against keys',
    (await median(playing(many))) / (await median(playing(keyed))),
    'ratio',
    2.5,
  ),
  row('a span drawn to another frame, of one rig', await median(drawing(one), 20), 'ms', 4),
  row('a span drawn to another frame, of one of 20 rigs', await median(drawing(many), 20), 'ms', 4),
]);
