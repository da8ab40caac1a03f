import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  type ControlSet,
  castOrder,
  colourText,
  kinds,
  lockMembers,
  type Member,
  parentMembers,
  renameMember,
  type Shot,
  simpleKinds,
} from '@varrup/core';
import {
  Box,
  Camera,
  ChevronDown,
  ChevronRight,
  Circle,
  CircleDot,
  CloudSun,
  Cone,
  Cylinder,
  Donut,
  Eye,
  EyeOff,
  FileInput,
  Folder,
  Grid2x2,
  Lightbulb,
  Lock,
  LockOpen,
  Omega,
  PersonStanding,
  Pill,
  Plus,
  Puzzle,
  RectangleHorizontal,
  Spline,
  Square,
  Torus,
  Triangle,
  Type,
} from 'lucide-react';
import { type ComponentType, type KeyboardEvent, type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import { bringIn, toggleVisible } from '../commands/casting.ts';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { FirstShot } from '../help/FirstShot.tsx';
import { HelpMark } from '../help/HelpMark.tsx';
import { membersHere } from '../menus/here.ts';
import { RigPicture } from '../rigs/RigCard.tsx';
import { useShot } from '../shot/shot-store.ts';
import { setMembers } from '../stage/overlays/control-sets.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem } from '../ui/Menu.tsx';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { select, useSelection } from '../view/selection.ts';
import { useShown } from '../view/shown.ts';
import { indent } from './indent.ts';
import { looseMembers } from './loose-members.ts';
import { SideMark } from './SideMark.tsx';
import { Stairs } from './Stairs.tsx';

const icons: Record<Member['kind'], ComponentType<{ size?: number }>> = {
  ball: Circle,
  box: Box,
  cylinder: Cylinder,
  cone: Cone,
  capsule: Pill,
  tube: Donut,
  ring: Torus,
  arch: Omega,
  plank: RectangleHorizontal,
  rope: Spline,
  lettering: Type,
  wedge: Triangle,
  steps: Stairs,
  plane: Square,
  block: Grid2x2,
  piece: Puzzle,
  group: Folder,
  camera: Camera,
  light: Lightbulb,
  sky: CloudSun,
  rig: PersonStanding,
  control: CircleDot,
};

/** Where something dragged in the cast lands: under a member, or on the stage. */
const STAGE = 'the stage';

/** Who is in the shot, and who carries whom. */
export function CastPanel() {
  const shot = useShot((s) => s.shot);
  const run = useShot((s) => s.run);
  const selection = useSelection((s) => s.picked);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [renaming, setRenaming] = useState<string | null>(null);
  const asked = useQuestion((q) => q.open === 'rename-member');
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const rows = useMemo(() => (shot ? visibleRows(shot, folded) : []), [shot, folded]);

  const list = useRef<HTMLDivElement>(null);
  const [first, last] = useVisible(list, rows.length);
  const lead = selection.at(-1);
  // Whoever leads the selection is brought into view, whether their row is drawn or not.
  useEffect(() => {
    const at = rowOf(rows, lead);
    const box = list.current;
    if (at < 0 || !box) return;
    if (at * ROW < box.scrollTop) box.scrollTop = at * ROW;
    else if ((at + 1) * ROW > box.scrollTop + box.clientHeight) box.scrollTop = (at + 1) * ROW - box.clientHeight;
  }, [lead, rows]);
  useEffect(() => {
    if (!asked) return;
    useQuestion.getState().ask(null);
    setRenaming(useSelection.getState().picked.at(-1) ?? null);
  }, [asked]);
  if (!shot) return null;

  const drop = ({ active, over }: DragEndEvent) => {
    const id = String(active.id);
    if (!over || over.id === id) return;
    const parent = over.id === STAGE ? null : String(over.id);
    const ids = selection.includes(id) ? selection : [id];
    run(parentMembers, { ids, parent, frame: usePlayhead.getState().frame });
  };
  const fold = (id: string, yes: boolean) => {
    const next = new Set(folded);
    if (yes) next.add(id);
    else next.delete(id);
    setFolded(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (renaming || event.altKey || event.ctrlKey || (event.shiftKey && !['ArrowUp', 'ArrowDown'].includes(event.key)))
      return;
    const lead = selection.at(-1);
    const at = rowOf(rows, lead);
    const go = (to: number) => {
      const row = rows[to];
      if (row) select('set' in row ? row.members : [row.id], event.shiftKey ? 'add' : 'only');
    };
    const moves: Record<string, () => unknown> = {
      ArrowDown: () => go(at + 1),
      ArrowUp: () => go(at < 0 ? rows.length - 1 : at - 1),
      Home: () => go(0),
      End: () => go(rows.length - 1),
      ArrowRight: () => lead && fold(lead, false),
      ArrowLeft: () => lead && fold(lead, true),
      Enter: () => lead && setRenaming(lead),
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    move();
  };

  return (
    <section aria-label="Cast" data-explained="Cast" className="flex h-full flex-col bg-card">
      <h2 className="flex items-center px-4 pt-3 pb-1 font-semibold">
        <span className="grow">Cast</span>
        <HelpMark of="Cast" />
      </h2>
      <DndContext sensors={sensors} onDragEnd={drop}>
        <div
          role="tree"
          aria-label="Cast"
          aria-multiselectable
          tabIndex={0}
          onKeyDown={onKeyDown}
          ref={list}
          className="min-h-0 grow overflow-y-auto px-1.5 pb-2"
        >
          <div style={{ height: first * ROW }} />
          {rows.slice(first, last).map((row) => {
            if ('set' in row) return <SetRow key={row.id} shot={shot} row={row} />;
            const { member, depth, hasChildren } = row;
            return (
              <Row
                key={member.id}
                shot={shot}
                member={member}
                depth={depth}
                folded={hasChildren ? folded.has(member.id) : null}
                onFold={(yes) => fold(member.id, yes)}
                picked={selection.includes(member.id)}
                renaming={renaming === member.id}
                onRename={(on) => setRenaming(on ? member.id : null)}
              />
            );
          })}
          <div style={{ height: (rows.length - last) * ROW }} />
          {rows.length === 0 ? (
            // A tree has somebody in it, be it only who says that nobody is.
            <div role="treeitem" aria-disabled tabIndex={-1} className="px-3 py-2 text-graphite">
              Nobody here yet. Bring somebody in to begin.
            </div>
          ) : null}
          <Bottom />
        </div>
      </DndContext>
      <FirstShot shot={shot} />
      <div className="flex items-center gap-1 border-t border-rule p-2 max-xl:flex-wrap">
        <Menu
          trigger={
            <Button
              look="pill"
              className="flex grow items-center justify-center gap-1.5"
              title="Bring in a rig, a file, a shape, a camera or a light"
            >
              <Plus size={14} /> bring in…
            </Button>
          }
        >
          <MenuItem keys={shortcutOf('cast.rig')} onPick={() => commandOf('cast.rig').run()}>
            <span className="flex items-center gap-2">
              <PersonStanding size={14} /> a rig…
            </span>
          </MenuItem>
          <MenuItem keys={shortcutOf('cast.file')} onPick={() => commandOf('cast.file').run()}>
            <span className="flex items-center gap-2">
              <FileInput size={14} /> a file…
            </span>
          </MenuItem>
          {simpleKinds.map((kind) => {
            const Icon = icons[kind];
            return (
              <MenuItem key={kind} onPick={() => bringIn(kind)}>
                <span className="flex items-center gap-2">
                  <Icon size={14} /> {kinds[kind].label.toLowerCase()}
                </span>
              </MenuItem>
            );
          })}
        </Menu>
        <Menu
          align="end"
          trigger={
            <Button look="pill" disabled={selection.length === 0} title="What to do with what is picked">
              picked…
            </Button>
          }
        >
          {[
            'cast.rename',
            'cast.parent',
            'cast.hold',
            'cast.group',
            'cast.duplicate',
            'cast.hide',
            'cast.lock',
            'cast.delete',
          ].map((id) => (
            <MenuItem key={id} keys={shortcutOf(id)} onPick={() => commandOf(id).run()}>
              {commandOf(id).label}
            </MenuItem>
          ))}
        </Menu>
      </div>
    </section>
  );
}

/** The row of a member; a control's is that of its set. */
const rowOf = (rows: readonly CastRow[], id: string | undefined): number =>
  id === undefined ? -1 : rows.findIndex((r) => ('set' in r ? r.members.includes(id) : r.id === id));

/** The height of a row, in pixels. */
const ROW = 28;
/** Rows drawn beyond those in view, so that a quick scroll finds them there. */
const SPARE = 6;

/** The rows of a long list that are in view: the first of them, and the one after the last. */
function useVisible(list: RefObject<HTMLDivElement | null>, count: number): [first: number, last: number] {
  const [view, setView] = useState({ top: 0, height: 2000 });
  useEffect(() => {
    const box = list.current;
    if (!box) return;
    const look = () => setView({ top: box.scrollTop, height: box.clientHeight });
    const size = new ResizeObserver(look);
    size.observe(box);
    box.addEventListener('scroll', look, { passive: true });
    return () => {
      size.disconnect();
      box.removeEventListener('scroll', look);
    };
  }, [list]);
  const first = Math.min(Math.max(0, count - 1), Math.max(0, Math.floor(view.top / ROW) - SPARE));
  return [first, Math.min(count, Math.ceil((view.top + view.height) / ROW) + SPARE)];
}

/** A row of the cast: a member, or for a rig one of its control sets. */
type CastRow =
  | { readonly id: string; readonly member: Member; readonly depth: number; readonly hasChildren: boolean }
  | { readonly id: string; readonly set: ControlSet; readonly members: readonly string[]; readonly depth: number };

/** Controls have no rows of their own: their rig's control sets stand for them. */
function visibleRows(shot: Shot, folded: ReadonlySet<string>): CastRow[] {
  const all = castOrder(shot).filter(({ member }) => member.kind !== 'control');
  const hidden = new Set<string>();
  const sets = setsByRig(shot);
  return all.flatMap(({ member, depth }, i): CastRow[] => {
    const inside = member.parent !== null && hidden.has(member.parent);
    if (inside || folded.has(member.id)) hidden.add(member.id);
    const own = sets.get(member.id) ?? [];
    const hasChildren = own.length > 0 || (all[i + 1]?.depth ?? 0) > depth;
    if (inside) return [];
    const row = { id: member.id, member, depth, hasChildren };
    return hidden.has(member.id) ? [row] : [row, ...own.map((set) => ({ ...set, depth: depth + 1 }))];
  });
}

/** The control sets of each rig, in their rig's order: those that hold nothing but its controls. */
function setsByRig(shot: Shot): Map<string, { id: string; set: ControlSet; members: readonly string[] }[]> {
  const out = new Map<string, { id: string; set: ControlSet; members: readonly string[] }[]>();
  for (const set of shot.sets.values()) {
    const members = setMembers(shot, set.id);
    const parents = new Set(
      members.map((id) => (shot.members.at(id).kind === 'control' ? shot.members.at(id).parent : null)),
    );
    const [rig] = parents;
    if (parents.size === 1 && rig) out.set(rig, [...(out.get(rig) ?? []), { id: set.id, set, members }]);
  }
  const rank = (members: readonly string[]) => Math.min(...members.map((id) => shot.members.at(id).rank));
  for (const sets of out.values()) sets.sort((a, b) => rank(a.members) - rank(b.members));
  return out;
}

/** A control set of a rig: pressing it picks its controls, the eye hides them. */
function SetRow({ shot, row }: { shot: Shot; row: Extract<CastRow, { set: ControlSet }> }) {
  const hidden = useShown((s) => s.hiddenSets.includes(row.id));
  const picked = useSelection((s) => row.members.some((id) => s.picked.includes(id)));
  const sides = new Set(row.members.map((id) => shot.rigs.controlOf(shot.members.at(id))?.side));
  const side = sides.size === 1 ? [...sides][0] : undefined;
  const toggle = () => {
    const { hiddenSets } = useShown.getState();
    useShown.setState({ hiddenSets: hidden ? hiddenSets.filter((id) => id !== row.id) : [...hiddenSets, row.id] });
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the tree around it takes the keys for all rows
    <div
      role="treeitem"
      aria-selected={picked}
      aria-level={row.depth + 1}
      aria-label={row.set.name}
      tabIndex={-1}
      onClick={(event) =>
        // The first of the set leads: the foot, not what turns the ankle.
        select([...row.members].reverse(), event.shiftKey ? 'add' : event.ctrlKey || event.metaKey ? 'toggle' : 'only')
      }
      className={`group flex h-7 items-center gap-2 rounded-md pr-1 select-none ${picked ? 'bg-blue-wash' : 'hover:bg-well'}`}
      style={{ paddingLeft: 26 + indent(row.depth) }}
    >
      <SideMark side={side ?? 'centre'} />
      <span className={`min-w-0 grow truncate ${hidden ? 'text-graphite line-through' : ''}`} title={row.set.name}>
        {row.set.name}
      </span>
      <Toggle
        on={hidden}
        label={hidden ? `Show the controls of ${row.set.name}` : `Hide the controls of ${row.set.name}`}
        onPress={toggle}
        icons={[EyeOff, Eye]}
      />
    </div>
  );
}

interface RowProps {
  shot: Shot;
  member: Member;
  depth: number;
  folded: boolean | null;
  onFold: (yes: boolean) => void;
  picked: boolean;
  renaming: boolean;
  onRename: (on: boolean) => void;
}

function Row({ shot, member, depth, folded, onFold, picked, renaming, onRename }: RowProps) {
  const run = useShot((s) => s.run);
  usePlayhead((p) => p.settled);
  const drag = useDraggable({ id: member.id, disabled: renaming });
  const drop = useDroppable({ id: member.id });
  const Icon = icons[member.kind];
  const value = (channel: string) => live.now?.value(member.id, channel) ?? 1;
  const seen = value('visible') >= 0.5;
  const tint = colourText(value('colour.r'), value('colour.g'), value('colour.b'));
  const loose = looseMembers(shot.loose).has(member.id);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the tree around it takes the keys for all rows
    <div
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      {...drag.listeners}
      data-here
      onContextMenu={(event) => {
        event.preventDefault();
        membersHere([member.id], event);
      }}
      role="treeitem"
      aria-selected={picked}
      aria-expanded={folded === null ? undefined : !folded}
      aria-level={depth + 1}
      aria-label={member.name}
      tabIndex={-1}
      onClick={(event) =>
        select([member.id], event.shiftKey ? 'add' : event.ctrlKey || event.metaKey ? 'toggle' : 'only')
      }
      onDoubleClick={() => onRename(true)}
      className={`group flex h-7 items-center select-none gap-1.5 rounded-md pr-1 ${picked ? 'bg-blue-wash' : 'hover:bg-well'} ${
        drop.isOver && !drag.isDragging ? 'outline-2 outline-blue' : ''
      } ${drag.isDragging ? 'opacity-50' : ''}`}
      style={{ paddingLeft: 4 + indent(depth) }}
    >
      <span className="grid w-4 shrink-0 place-items-center text-graphite">
        {folded !== null ? (
          <button
            type="button"
            tabIndex={-1}
            aria-label={folded ? `Unfold ${member.name}` : `Fold ${member.name}`}
            onClick={() => onFold(!folded)}
          >
            {folded ? <ChevronRight size={13} /> : <ChevronDown size={13} />}
          </button>
        ) : null}
      </span>
      <span
        className="relative grid size-5 shrink-0 place-items-center rounded-full"
        style={{ background: `${tint}55` }}
      >
        {member.kind === 'rig' ? (
          // A body is told by what it looks like.
          <RigPicture link={member.shape} className="size-6 max-w-none rounded-full" meanwhile={<Icon size={13} />} />
        ) : (
          <Icon size={13} />
        )}
      </span>
      {renaming ? (
        <input
          // biome-ignore lint/a11y/noAutofocus: renaming was asked for
          autoFocus
          aria-label={`New name of ${member.name}`}
          defaultValue={member.name}
          maxLength={80}
          onFocus={(event) => event.target.select()}
          onBlur={(event) => {
            const name = event.target.value.trim();
            if (name) run(renameMember, { id: member.id, name });
            onRename(false);
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') event.currentTarget.value = member.name;
            if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
          }}
          className="h-6 min-w-0 grow rounded border border-blue bg-paper px-1"
        />
      ) : (
        <span className={`min-w-0 grow truncate ${seen ? '' : 'text-graphite line-through'}`} title={member.name}>
          {member.name}
          {loose ? (
            <span className="hatched ml-1.5 rounded border border-graphite px-1 text-xs italic">loose</span>
          ) : null}
        </span>
      )}
      <Toggle
        on={!seen}
        label={seen ? `Hide ${member.name}` : `Show ${member.name}`}
        onPress={() => toggleVisible(shot, [member.id])}
        icons={[EyeOff, Eye]}
      />
      <Toggle
        on={member.locked}
        label={member.locked ? `Unlock ${member.name}` : `Lock ${member.name}`}
        onPress={() => run(lockMembers, { ids: [member.id], locked: !member.locked })}
        icons={[Lock, LockOpen]}
      />
    </div>
  );
}

function Toggle({
  on,
  label,
  onPress,
  icons: [On, Off],
}: {
  on: boolean;
  label: string;
  onPress: () => void;
  icons: [ComponentType<{ size?: number }>, ComponentType<{ size?: number }>];
}) {
  return (
    <Hint text={label} side="right">
      <button
        type="button"
        tabIndex={-1}
        aria-label={label}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={(event) => {
          event.stopPropagation();
          onPress();
        }}
        className={`size-5 shrink-0 place-items-center rounded text-graphite hover:text-ink ${on ? 'grid' : 'hidden group-hover:grid'}`}
      >
        {on ? <On size={13} /> : <Off size={13} />}
      </button>
    </Hint>
  );
}

/** The free space under the rows: dropping here puts a member back on the stage. */
function Bottom() {
  const { setNodeRef, isOver, active } = useDroppable({ id: STAGE });
  return (
    <div
      ref={setNodeRef}
      className={`mt-1 min-h-10 rounded-md p-2 text-sm text-graphite ${isOver ? 'outline-2 outline-blue' : ''}`}
    >
      {active ? 'Drop here to put it on the stage, under nobody.' : ''}
    </div>
  );
}
