import {
  applyRecipe,
  channelPath,
  cook,
  type Field,
  firstSettings,
  isLocked,
  type Kit,
  kitOf,
  kits,
  type Member,
  newId,
  type Recipe,
  type RecipeSettings,
  removeRecipe,
  type Shot,
  shownChannels,
} from '@varrup/core';
import { MoreHorizontal } from 'lucide-react';
import { useEffect } from 'react';
import { create } from 'zustand';
import { useShot } from '../shot/shot-store.ts';
import { type OnTable, useTable } from '../trial/table.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem } from '../ui/Menu.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { select, useSelection } from '../view/selection.ts';

/** The recipe on the table: shown in stage and curves as it would be, and not written before it is kept. */
interface Cooking {
  readonly recipe: Recipe | null;
  readonly replace: boolean;
  start(recipe: Recipe): void;
  change(settings: RecipeSettings): void;
  replaceToo(replace: boolean): void;
}

export const useCooking = create<Cooking>((set, get) => {
  /** @returns whether it could be laid on the table */
  const show = (recipe: Recipe, replace: boolean): boolean => {
    const { committed } = useShot.getState();
    if (!committed) return false;
    const { problem, note, inTheWay, ofOthers } = cook(committed, recipe, replace);
    const there = [countOf(inTheWay, 'of yours'), countOf(ofOthers, 'of other recipes')].filter(Boolean).join(' and ');
    const options = [
      { word: `leave ${there}`, replaces: false },
      { word: `write over ${inTheWay + ofOthers === 1 ? 'it' : 'them'}`, replaces: true },
    ].map(({ word, replaces }) => ({
      word,
      picked: replace === replaces,
      choose: () => get().replaceToo(replaces),
    }));
    const trial: OnTable = {
      owner: `kit ${recipe.id}`,
      title: `${kitOf(recipe.kit)?.name} for ${committed.members.get(recipe.member)?.name}`,
      problem,
      remarks: note ? [note] : [],
      gone: () => set({ recipe: null }),
      ...(there ? { choice: { legend: `In the way: ${there}`, options } } : {}),
    };
    return useTable.getState().lay(trial, applyRecipe, { recipe, replace });
  };
  const put = (recipe: Recipe, replace: boolean) => {
    if (show(recipe, replace)) set({ recipe, replace });
  };
  return {
    recipe: null,
    replace: false,
    start: (recipe) => put(recipe, false),
    change: (settings) => {
      const { recipe, replace } = get();
      if (recipe) put({ ...recipe, settings: { ...recipe.settings, ...settings } }, replace);
    },
    replaceToo: (replace) => {
      const { recipe } = get();
      if (recipe) put(recipe, replace);
    },
  };
});

const countOf = (n: number, whose: string) => (n === 0 ? '' : n === 1 ? `1 key ${whose}` : `${n} keys ${whose}`);

/**
 * Starts a kit on a member, with settings read from the shot. One that is of a whole rig and has a recipe of it already is opened as it
 * is: a second one could only write over it.
 */
export function startKit(shot: Shot, kit: Kit, picked: Member): void {
  const rig =
    kit.whole && picked.kind === 'control' && picked.parent !== null ? shot.members.get(picked.parent) : undefined;
  const member = rig ?? picked;
  if (!useSelection.getState().picked.includes(member.id)) select([member.id]);
  const there = kit.whole && shot.recipes.values().find((r) => r.kit === kit.id && r.member === member.id);
  if (there) useCooking.getState().start(there);
  else {
    const path = useSelection.getState().channels.find((p) => p.startsWith(`${member.id}.`)) ?? null;
    const first = firstSettings(kit, shot, member, usePlayhead.getState().frame, path);
    const settings = path && 'channel' in first ? { ...first, channel: path.slice(member.id.length + 1) } : first;
    useCooking.getState().start({ id: newId(), kit: kit.id, member: member.id, settings, written: {} });
  }
  usePlaces.setState({ side: 'kits' });
}

/** Kits: helpers that write ordinary keys, and what they have written for whoever is picked. */
export function KitsPanel() {
  const shot = useShot((s) => s.committed);
  const lead = useSelection((s) => s.picked.at(-1));
  const recipe = useCooking((c) => c.recipe);
  const member = lead ? shot?.members.get(lead) : undefined;
  const drafted = recipe ? shot?.members.get(recipe.member) : undefined;
  useEffect(() => {
    // Whoever it was for has gone.
    if (recipe && !drafted) useTable.getState().leave();
  }, [recipe, drafted]);
  if (!shot) return null;
  if (recipe && drafted && (!member || member === drafted))
    return <Card shot={shot} member={drafted} recipe={recipe} />;
  if (recipe && drafted) return <Draft recipe={recipe} of={drafted} />;
  if (!member)
    return (
      <p className="p-4 text-graphite">Pick something in the stage or in the cast, and choose what it is to do.</p>
    );
  const own = shot.recipes.values().filter((r) => r.member === member.id);
  const locked = isLocked(shot, member.id);
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="truncate pt-2 font-semibold" title={member.name}>
        {member.name}
      </h2>
      {own.length > 0 ? (
        <ul className="mt-1.5" aria-label="Recipes">
          {own.map((r) => (
            <RecipeRow key={r.id} shot={shot} recipe={r} disabled={locked} />
          ))}
        </ul>
      ) : null}
      <p className="mt-3 mb-1 text-sm text-graphite">
        {own.length > 0 ? 'Write more keys' : 'Kits write plain keys, and stay adjustable'}
      </p>
      <ul aria-label="Kits">
        {kits
          .filter((kit) => kit.fits?.(member) ?? true)
          .map((kit) => (
            <li key={kit.id}>
              <button
                type="button"
                disabled={locked}
                onClick={() => startKit(shot, kit, member)}
                className="mt-1 block w-full rounded-lg border border-rule bg-paper px-3 py-2 text-left transition-colors hover:border-blue disabled:opacity-40"
              >
                <b className="font-semibold">{kit.name}</b>
                <span className="block text-sm text-graphite">{kit.about}</span>
              </button>
            </li>
          ))}
      </ul>
    </div>
  );
}

/** The kit of somebody else is on the table: it stays until it is kept or left. */
function Draft({ recipe, of }: { recipe: Recipe; of: Member }) {
  return (
    <div className="m-3 rounded-lg bg-ochre-wash px-3 py-2">
      <p>
        {kitOf(recipe.kit)?.name} for {of.name} is shown and not written yet.
      </p>
      <Button look="pill" className="mt-2" onClick={() => select([of.id])}>
        to its card
      </Button>
    </div>
  );
}

function RecipeRow({ shot, recipe, disabled }: { shot: Shot; recipe: Recipe; disabled: boolean }) {
  const kit = kitOf(recipe.kit);
  const run = useShot((s) => s.run);
  const keys = Object.values(recipe.written).reduce((n, k) => n + k.length, 0);
  return (
    <li className="mt-1 flex items-center gap-1 rounded-lg bg-well px-3 py-1">
      <Hint text="Change its settings: keys a hand has touched stay" side="left">
        <button
          type="button"
          disabled={disabled}
          onClick={() => useCooking.getState().start(shot.recipes.at(recipe.id))}
          className="min-w-0 grow rounded text-left"
        >
          <b className="font-medium">{kit?.name ?? recipe.kit}</b>
          <span className="ml-1.5 text-sm text-graphite">{keys} keys</span>
        </button>
      </Hint>
      <Menu
        align="end"
        trigger={
          <Button
            look="icon"
            className="size-6!"
            disabled={disabled}
            aria-label={`More for ${kit?.name ?? recipe.kit}`}
            title="More"
          >
            <MoreHorizontal size={14} />
          </Button>
        }
      >
        <MenuItem onPick={() => useCooking.getState().start(shot.recipes.at(recipe.id))}>change its settings</MenuItem>
        <MenuItem onPick={() => run(removeRecipe, { id: recipe.id, keys: 'keep' })}>
          make its keys plain: forget the recipe
        </MenuItem>
        <MenuItem onPick={() => run(removeRecipe, { id: recipe.id, keys: 'take' })}>
          take its keys away with it
        </MenuItem>
      </Menu>
    </li>
  );
}

/** A kit with its settings, live; what it would change, and whether it is kept, stands under the stage. */
function Card({ shot, member, recipe }: { shot: Shot; member: Member; recipe: Recipe }) {
  const kit = kitOf(recipe.kit);
  const { change } = useCooking.getState();
  if (!kit) return null;
  return (
    <section aria-label={`${kit.name} for ${member.name}`} className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="pt-2 font-semibold">
        {kit.name} <span className="font-normal text-graphite">for {member.name}</span>
      </h2>
      <p className="mt-0.5 mb-2 text-sm text-graphite">{kit.about}</p>
      <Fields kit={kit} shot={shot} member={member} settings={recipe.settings} onChange={change} />
      <p className="mt-3 text-sm text-graphite">
        Shown under the stage, and not {shot.recipes.has(recipe.id) ? 'changed' : 'written'} before you keep it.
      </p>
    </section>
  );
}

interface FieldsProps {
  kit: Kit;
  shot: Shot;
  member: Member;
  settings: RecipeSettings;
  onChange: (settings: RecipeSettings) => void;
}

/** The settings of a kit: those always in sight, and the parts that fold. */
function Fields({ kit, shot, member, settings, onChange }: FieldsProps) {
  const lacks = kit.lacks?.(shot, member) ?? [];
  const shown = kit.fields.filter((f) => !lacks.includes(f.name) && (!('when' in f) || !f.when || f.when(settings)));
  const sections = [...new Set(shown.flatMap((f) => f.section ?? []))];
  const grid = (fields: readonly Field[]) => (
    <div className="grid grid-cols-[6.4rem_1fr] items-center gap-x-2 gap-y-1">
      {fields.map((field) => (
        <Setting
          key={field.name}
          field={field}
          shot={shot}
          member={member}
          settings={settings}
          onChange={(change) => {
            const value = change[field.name];
            const more = field.kind === 'choice' ? kit.chosen?.(shot, member, field.name, String(value)) : undefined;
            onChange({ ...more, ...change });
          }}
        />
      ))}
    </div>
  );
  return (
    <>
      {grid(shown.filter((f) => !f.section))}
      {sections.map((section, i) => (
        <details key={section} open={i === 0} className="mt-1.5 border-t border-rule pt-1">
          <summary className="cursor-pointer rounded py-0.5 font-medium">{section}</summary>
          {grid(shown.filter((f) => f.section === section))}
        </details>
      ))}
    </>
  );
}

function Setting({
  field,
  shot,
  member,
  settings,
  onChange,
}: {
  field: Field;
  shot: Shot;
  member: Member;
  settings: RecipeSettings;
  onChange: (settings: RecipeSettings) => void;
}) {
  const label = (
    <span className="text-graphite" title={field.hint}>
      {field.label}
    </span>
  );
  const value = settings[field.name] ?? field.start;
  if (field.kind === 'number') {
    return (
      <>
        {label}
        <span className="flex items-center gap-1.5">
          <span className="w-18 shrink-0">
            <NumberField
              label={field.label}
              value={Number(value)}
              step={field.step}
              digits={field.step < 1 ? 2 : 0}
              min={field.min}
              max={field.max}
              whole={field.whole}
              onChange={(v) => onChange({ [field.name]: v })}
              onPreview={(v) => onChange({ [field.name]: v })}
            />
          </span>
          <span className="text-sm text-graphite">{field.unit}</span>
        </span>
      </>
    );
  }
  if (field.kind === 'switch') {
    return (
      <label className="col-span-2 flex items-center gap-2" title={field.hint}>
        <input
          type="checkbox"
          className="accent-blue"
          checked={value === true}
          onChange={(event) => onChange({ [field.name]: event.target.checked })}
        />
        {field.label}
      </label>
    );
  }
  const choices =
    field.kind === 'channel'
      ? channelChoices(shot, member)
      : field.kind === 'member'
        ? memberChoices(shot, member)
        : field.choices;
  return (
    <>
      {label}
      <select
        aria-label={field.label}
        title={field.hint}
        value={String(value)}
        onChange={(event) => onChange({ [field.name]: event.target.value })}
        className="h-6 min-w-0 rounded-md border border-rule bg-paper px-1 text-sm"
      >
        {choices.map((c) => (
          <option key={c.value} value={c.value}>
            {c.label}
          </option>
        ))}
      </select>
    </>
  );
}

const channelChoices = (shot: Shot, member: Member) => [
  { value: 'every', label: 'every one that moves there' },
  ...shownChannels(member, shot.rigs)
    .filter((c) => shot.curves.get(channelPath(member.id, c.id))?.type === 'number')
    .map((c) => ({ value: c.id, label: `${c.group} ${c.label}`.trim() })),
];

const memberChoices = (shot: Shot, member: Member) => [
  { value: '', label: 'nobody' },
  ...shot.members
    .values()
    .filter((m) => m.id !== member.id && m.kind !== 'control' && m.kind !== 'sky')
    .sort((a, b) => a.rank - b.rank)
    .map((m) => ({ value: m.id, label: m.name })),
];
