import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type BookedPose, mirrored, putPose, type Shot } from '@varrup/core';
import { FlipHorizontal2, MoreHorizontal, Search } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { type posing as findPosing, posing, put } from '../commands/posing.ts';
import { layPoseHere } from '../mix/mix.ts';
import { useRigPicture } from '../rigs/pictures.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { useAutoKey } from '../view/auto-key.ts';
import { usePlayhead } from '../view/playhead.ts';
import { select, useSelection } from '../view/selection.ts';
import { POSE_TYPE } from './pose-drag.ts';

type Posing = NonNullable<ReturnType<typeof findPosing>>;

/** The pose book of the rig that is picked: put on, blended, kept, found again. */
export function PosesPanel({ shot }: { shot: Shot }) {
  // What is meant depends on what is picked.
  useSelection((s) => s.picked);
  const p = posing();
  if (!p) {
    const rigs = shot.members.values().some((m) => m.kind === 'rig');
    return (
      <p className="p-4 text-graphite">
        {rigs
          ? 'Pick a rig, or a control of it, to see its pose book.'
          : 'Pose books belong to rigs. Bring one in from the cast at the left.'}
      </p>
    );
  }
  return <Book key={p.rig.id} posing={p} />;
}

export const poseBookKey = (rig: string) => ['poses', rig] as const;

function Book({ posing: p }: { posing: Posing }) {
  const book = useQuery({ queryKey: poseBookKey(p.rig.id), queryFn: () => api.poses(p.rig.id) });
  const [find, setFind] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const [last, setLast] = useState<{ pose: BookedPose; turned: boolean; share: number } | null>(null);
  const [turned, setTurned] = useState(false);
  const poses = book.data ?? [];
  const tags = useMemo(() => [...new Set(poses.flatMap((pose) => pose.tags))].sort(), [poses]);
  const wanted = find.trim().toLowerCase();
  const shown = poses.filter(
    (pose) =>
      (tag === null || pose.tags.includes(tag)) &&
      (wanted === '' || [pose.name, ...pose.tags].some((word) => word.toLowerCase().includes(wanted))),
  );
  const values = (pose: BookedPose) => (turned ? mirrored(p.rig, pose.values) : pose.values);
  const putOn = (pose: BookedPose) => {
    put(p, values(pose), pose.name, p.only);
    setLast({ pose, turned, share: 1 });
  };
  return (
    <div className="flex min-h-0 grow flex-col">
      <header className="px-4 pt-1.5 pb-2">
        <h2 className="flex items-center gap-1 font-semibold">
          <span className="min-w-0 truncate">
            {p.shot.members.at(p.id).name}
            <span className="font-normal text-graphite">{p.only ? `: only ${partWords(p.shot, p.only)}` : ''}</span>
          </span>
          {p.only ? (
            <Hint text="Poses go onto what is picked only. Picks the whole body" side="left">
              <Button
                look="pill"
                className="ml-auto h-6! shrink-0 px-2! font-normal text-sm"
                onClick={() => select([p.id])}
              >
                whole body
              </Button>
            </Hint>
          ) : null}
        </h2>
        <div className="mt-2 flex flex-wrap gap-1">
          {(
            [
              ['pose.copy', 'copy'],
              ['pose.paste', 'paste'],
              ['pose.pasteMirrored', 'paste mirrored'],
              ['pose.mirror', 'mirror'],
              ['rest.all', 'rest'],
            ] as const
          ).map(([id, word]) => (
            <Hint key={id} text={commandOf(id).label} keys={shortcutOf(id)}>
              <Button look="pill" className="h-6! px-2! text-sm" onClick={() => commandOf(id).run()}>
                {word}
              </Button>
            </Hint>
          ))}
        </div>
        <div className="mt-2 flex items-center gap-1">
          <label className="flex h-7 min-w-0 grow items-center gap-1.5 rounded-full border border-rule bg-paper px-2.5">
            <Search size={12} className="shrink-0 text-graphite" aria-hidden />
            <input
              value={find}
              onChange={(event) => setFind(event.target.value)}
              placeholder="find poses"
              aria-label="Find poses"
              className="min-w-0 grow bg-transparent outline-none"
            />
          </label>
          <Hint text="Put poses on mirrored">
            <Button
              look="icon"
              aria-pressed={turned}
              aria-label="Put poses on mirrored"
              className="size-7! aria-pressed:bg-blue-wash aria-pressed:text-blue"
              onClick={() => setTurned(!turned)}
            >
              <FlipHorizontal2 size={14} />
            </Button>
          </Hint>
        </div>
        {tags.length > 0 ? (
          <fieldset className="mt-1.5 flex flex-wrap gap-1" aria-label="Tags">
            {tags.map((word) => (
              <button
                key={word}
                type="button"
                aria-pressed={tag === word}
                onClick={() => setTag(tag === word ? null : word)}
                className="rounded-full border border-rule px-2 text-sm text-graphite aria-pressed:border-blue aria-pressed:bg-blue-wash aria-pressed:text-blue"
              >
                {word}
              </button>
            ))}
          </fieldset>
        ) : null}
      </header>
      <div className="min-h-0 grow overflow-y-auto px-3 pb-2">
        {book.isPending ? (
          <p role="status" className="px-1 text-graphite">
            Fetching the pose book…
          </p>
        ) : null}
        {book.isError ? (
          <p role="alert" className="px-1">
            {book.error.message}
          </p>
        ) : null}
        {book.data && shown.length === 0 ? (
          <p className="px-1 text-graphite">
            {poses.length === 0
              ? 'Nothing in the book yet. Pose the rig and keep the pose: it will be there in every shot that links this rig.'
              : 'No pose is called so.'}
          </p>
        ) : null}
        <ul className="grid grid-cols-2 gap-2" aria-label="Pose book">
          {shown.map((pose) => (
            <li key={pose.id}>
              <PoseCard posing={p} pose={pose} values={values(pose)} turned={turned} onPut={() => putOn(pose)} />
            </li>
          ))}
        </ul>
      </div>
      {last ? <Blend posing={p} last={last} onShare={(share) => setLast({ ...last, share })} /> : null}
      <div className="border-t border-rule p-2">
        <Hint text={commandOf('pose.keep').label} keys={shortcutOf('pose.keep')} side="top">
          <Button look="pill" className="w-full" onClick={() => commandOf('pose.keep').run()}>
            keep this pose…
          </Button>
        </Hint>
      </div>
    </div>
  );
}

function PoseCard({
  posing: p,
  pose,
  values,
  turned,
  onPut,
}: {
  posing: Posing;
  pose: BookedPose;
  values: BookedPose['values'];
  turned: boolean;
  onPut: () => void;
}) {
  const [naming, setNaming] = useState<'name' | 'tags' | null>(null);
  const member = p.shot.members.at(p.id);
  const link = member.kind === 'rig' ? member.shape : null;
  const { data } = useRigPicture(link, { id: `${pose.id}${turned ? ' mirrored' : ''}`, values });
  const queries = useQueryClient();
  const act = (what: Promise<unknown>) =>
    what
      .catch((error: Error) => toast.error(error.message))
      .finally(() => queries.invalidateQueries({ queryKey: poseBookKey(p.rig.id) }));
  const remove = () =>
    act(
      api.removePose(p.rig.id, pose.id).then(() =>
        toast(`“${pose.name}” is out of the book.`, {
          action: {
            label: 'Put it back',
            onClick: () => act(api.addPose(p.rig.id, { name: pose.name, tags: pose.tags, values: pose.values })),
          },
        }),
      ),
    );
  return (
    <div className="group relative overflow-hidden rounded-lg border border-rule bg-paper">
      <Hint text={`Put ${pose.name} on; drag it onto a frame of the strip to key it there`} side="left">
        <button
          type="button"
          draggable
          onDragStart={(event) => {
            event.dataTransfer.setData(
              POSE_TYPE,
              JSON.stringify({ rig: p.id, name: pose.name, values, only: p.only && [...p.only] }),
            );
            event.dataTransfer.effectAllowed = 'copy';
          }}
          onClick={onPut}
          aria-label={`Put ${pose.name} on`}
          className="block w-full text-left hover:bg-well"
        >
          {data ? (
            <img src={data} alt="" className="aspect-square w-full object-cover" draggable={false} />
          ) : (
            <span className="grid aspect-square w-full place-items-center text-xs text-graphite">drawing…</span>
          )}
          <span className="block truncate px-1.5 py-0.5 pr-6 text-sm" title={[pose.name, ...pose.tags].join(' · ')}>
            {pose.name}
          </span>
        </button>
      </Hint>
      <div className="absolute right-0.5 bottom-0">
        <Menu
          align="end"
          trigger={
            <Button look="icon" className="size-6!" aria-label={`More about ${pose.name}`}>
              <MoreHorizontal size={13} />
            </Button>
          }
        >
          <MenuItem onPick={() => put(p, values, pose.name, p.only, { key: true })}>put on and key</MenuItem>
          <MenuItem onPick={() => layPoseHere(p.shot, p.id, pose.name, values)}>lay it on a track, held</MenuItem>
          <MenuLine />
          <MenuItem onPick={() => setNaming('name')}>rename…</MenuItem>
          <MenuItem onPick={() => setNaming('tags')}>tags…</MenuItem>
          <MenuItem onPick={() => void remove()}>take out of the book</MenuItem>
        </Menu>
      </div>
      {naming === 'name' ? (
        <NameDialog
          title="Rename the pose"
          label="Name"
          initial={pose.name}
          action="rename"
          onName={(name) => void act(api.changePose(p.rig.id, pose.id, { name }))}
          onClose={() => setNaming(null)}
        />
      ) : null}
      {naming === 'tags' ? (
        <NameDialog
          title={`Tags of ${pose.name}`}
          label="Words to find it by, with commas between"
          initial={pose.tags.join(', ')}
          action="keep"
          onName={(text) => void act(api.changePose(p.rig.id, pose.id, { tags: tagsOf(text) }))}
          onClose={() => setNaming(null)}
        />
      ) : null}
    </div>
  );
}

/** Words with commas between, each once. */
export const tagsOf = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((word) => word.trim())
      .filter((word) => word !== ''),
  ),
];

/** How much of the pose that was put on last: from none of it, through all of it, to more than that. */
function Blend({
  posing: p,
  last,
  onShare,
}: {
  posing: Posing;
  last: { pose: BookedPose; turned: boolean; share: number };
  onShare: (share: number) => void;
}) {
  const fresh = useShot((s) => s.history.future.length === 0 && s.history.past.at(-1)?.command === putPose.name);
  const [blending, setBlending] = useState(false);
  const preview = usePreview('pose share');
  if (!fresh && !blending) return null;
  const finish = () => {
    if (blending) preview.keep();
    setBlending(false);
  };
  const blend = (share: number) => {
    const store = useShot.getState();
    // The pose is taken off again and put on by its share: in the end it is one step.
    if (!blending) store.undo();
    setBlending(true);
    const { pose, turned } = last;
    const args = {
      rig: p.id,
      pose: turned ? mirrored(p.rig, pose.values) : pose.values,
      frame: usePlayhead.getState().frame,
      share,
      only: p.only,
      name: pose.name,
      key: false,
      autoKey: useAutoKey.getState().mode,
    };
    preview.show(putPose, args);
    onShare(share);
  };
  return (
    <label className="flex items-center gap-2 border-t border-rule px-3 py-1.5 text-sm">
      <span className="max-w-24 truncate text-graphite">{last.pose.name}</span>
      <input
        type="range"
        min={0}
        max={150}
        step={1}
        defaultValue={100}
        key={last.pose.id + String(last.turned)}
        aria-label={`How much of ${last.pose.name}`}
        onChange={(event) => blend(Number(event.target.value) / 100)}
        onPointerUp={finish}
        onKeyUp={finish}
        onBlur={finish}
        className="min-w-0 grow accent-blue"
      />
      <span className="tabular w-10 text-right">{Math.round(last.share * 100)} %</span>
    </label>
  );
}

/** What of a body is meant: its name, or how many. */
const partWords = (shot: Shot, only: ReadonlySet<string>): string => {
  const [first] = only;
  return only.size === 1 && first ? shot.members.at(first).name : `${only.size} controls`;
};
