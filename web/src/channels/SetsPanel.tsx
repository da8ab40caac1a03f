import { type ControlSet, removeSet, type Shot, saveSet, setPaths, splitPath } from '@varrup/core';
import { MoreHorizontal } from 'lucide-react';
import { useState } from 'react';
import { shortcutOf } from '../commands/list.ts';
import { keySet, makeSet, pathsForSet, pickSet } from '../commands/sets.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';

/** The control sets of the shot: channels that are picked and keyed together, whoever they belong to. */
export function SetsPanel({ shot }: { shot: Shot }) {
  const picked = useSelection((s) => s.picked.length);
  const sets = shot.sets.values().sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  return (
    <div className="flex min-h-0 grow flex-col">
      <ul className="min-h-0 grow overflow-y-auto px-2 py-1" aria-label="Control sets">
        {sets.map((set) => (
          <SetRow key={set.id} shot={shot} set={set} />
        ))}
        {sets.length === 0 ? (
          <li className="px-2 py-1 text-graphite">
            A control set holds channels that belong together, of one object or of many. Pick them and make a set; then
            one press picks or keys them all.
          </li>
        ) : null}
      </ul>
      <div className="border-t border-rule p-2">
        <Hint
          text="Of the picked channels, or of all channels of what is picked"
          keys={shortcutOf('set.make')}
          side="top"
        >
          <Button
            look="pill"
            className="w-full"
            disabled={picked === 0}
            onClick={() => useQuestion.getState().ask('set')}
          >
            make a control set…
          </Button>
        </Hint>
      </div>
    </div>
  );
}

function SetRow({ shot, set }: { shot: Shot; set: ControlSet }) {
  const [renaming, setRenaming] = useState(false);
  const paths = setPaths(shot, set);
  const members = new Set(paths.map((p) => splitPath(p).member)).size;
  const { run } = useShot.getState();
  return (
    <li className="flex h-8 items-center gap-1 rounded-md px-2 hover:bg-well">
      <Hint text={`Pick the ${paths.length} channels of ${set.name}`} side="left">
        <button type="button" className="min-w-0 grow truncate text-left" onClick={() => pickSet(shot, set.id)}>
          {set.name}
          <span className="ml-1.5 text-sm text-graphite">
            {paths.length} of {members}
          </span>
        </button>
      </Hint>
      <Hint text={`Key ${set.name} on this frame`} side="left">
        <Button
          look="pill"
          className="h-6! px-2! text-sm"
          aria-label={`Key the set ${set.name}`}
          onClick={() => keySet(shot, set.id)}
        >
          key
        </Button>
      </Hint>
      <Menu
        align="end"
        trigger={
          <Button look="icon" className="size-6!" aria-label={`More about the set ${set.name}`}>
            <MoreHorizontal size={14} />
          </Button>
        }
      >
        <MenuItem onPick={() => setRenaming(true)}>rename…</MenuItem>
        <MenuItem
          onPick={() => run(saveSet, { set: { ...set, paths: [...new Set([...set.paths, ...pathsForSet(shot)])] } })}
        >
          add what is picked
        </MenuItem>
        <MenuItem
          onPick={() => {
            const gone = new Set(pathsForSet(shot));
            run(saveSet, { set: { ...set, paths: set.paths.filter((p) => !gone.has(p)) } });
          }}
        >
          take out what is picked
        </MenuItem>
        <MenuLine />
        <MenuItem onPick={() => run(removeSet, { id: set.id })}>delete the set</MenuItem>
      </Menu>
      {renaming ? (
        <NameDialog
          title="Rename the control set"
          label="Name"
          initial={set.name}
          action="rename"
          onName={(name) => run(saveSet, { set: { ...set, name } })}
          onClose={() => setRenaming(false)}
        />
      ) : null}
    </li>
  );
}

/** Asks for the name of a new set. */
export function SetDialog() {
  const open = useQuestion((q) => q.open === 'set');
  const shot = useShot((s) => s.shot);
  if (!open || !shot) return null;
  const paths = pathsForSet(shot);
  return (
    <NameDialog
      title={`A control set of ${paths.length} channels`}
      label="What do they do together? Feet, left hand, everything that swings…"
      action="make the set"
      onName={(name) => makeSet(shot, name)}
      onClose={() => useQuestion.getState().ask(null)}
    />
  );
}
