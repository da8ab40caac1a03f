import {
  addDeformer,
  deformChannel,
  deformerKinds,
  deformers,
  type Member,
  type MemberDeformer,
  moveDeformer,
  newDeformer,
  rangeOf,
  removeDeformer,
  type Shot,
  setDeformer,
  shownChannels,
} from '@varrup/core';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useShot } from '../shot/shot-store.ts';
import { type OnTable, tryOut } from '../trial/table.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem } from '../ui/Menu.tsx';
import { ChannelRow } from './ChannelRow.tsx';

/** What bends a member's form out of shape: its deformers in their order, each with its channels to key. */
export function Deformers({ shot, member, disabled }: { shot: Shot; member: Member; disabled: boolean }) {
  const made = useShot((s) => s.committed?.members.get(member.id)?.deformers);
  return (
    <fieldset className="mt-3 border-t border-rule pt-2" disabled={disabled}>
      <legend className="float-left mb-1 flex w-full items-center text-sm text-graphite">
        <span className="grow">deformers</span>
        <Menu
          align="end"
          trigger={
            <Button className="h-6! px-1.5! text-sm" disabled={disabled} aria-label="Add a deformer">
              <Plus size={12} className="mr-0.5 -mt-0.5 inline" aria-hidden />
              add
            </Button>
          }
        >
          {deformerKinds.map((kind) => (
            <MenuItem
              key={kind}
              onPick={() => tryDeformer(member, newDeformer(member, kind), deformers[kind].shows.at)}
            >
              <b className="font-medium">{deformers[kind].label}</b>
              <span className="block max-w-60 pb-1 text-sm whitespace-normal text-graphite">
                {deformers[kind].about}
              </span>
            </MenuItem>
          ))}
        </Menu>
      </legend>
      <div className="clear-left">
        {member.deformers.map((deformer, i) => (
          <One
            key={deformer.id}
            shot={shot}
            member={member}
            deformer={deformer}
            first={i === 0}
            last={i === member.deformers.length - 1}
            // One that is only shown is set where it is kept or left.
            disabled={disabled || !made?.includes(deformer)}
          />
        ))}
      </div>
    </fieldset>
  );
}

/** Shows what a deformer would do at some amount; it begins with that amount when it is kept. */
function tryDeformer(member: Member, deformer: MemberDeformer, amount: number): void {
  const { label, about, shows, channels } = deformers[deformer.kind];
  const channel = channels.find((c) => c.id === shows.channel)!;
  const scale = channel.unit === '°' ? 180 / Math.PI : 1;
  const { min, max } = rangeOf(channel);
  const trial: OnTable = {
    owner: `deformer ${deformer.id}`,
    title: `${label} for ${member.name}`,
    remarks: [`${about} It can be keyed.`],
    number: {
      label: channel.label,
      value: amount * scale,
      step: channel.unit === '°' ? 1 : 0.05,
      digits: channel.unit === '°' ? 0 : 2,
      min: min * scale,
      max: max * scale,
      unit: channel.unit,
      change: (value) => tryDeformer(member, deformer, value / scale),
    },
  };
  const args = { id: member.id, deformer, values: { [channel.id]: amount } };
  tryOut(trial, addDeformer, args, 'It has as many deformers as it can have.');
}

const words: Record<string, string> = {
  axis: 'along',
  space: 'of',
  towards: 'towards',
  world: 'the stage',
  own: 'its own',
};
const choices: Record<string, readonly string[]> = {
  axis: ['x', 'y', 'z'],
  towards: ['x', 'y', 'z'],
  space: ['world', 'own'],
};

function One({
  shot,
  member,
  deformer,
  first,
  last,
  disabled,
}: {
  shot: Shot;
  member: Member;
  deformer: MemberDeformer;
  first: boolean;
  last: boolean;
  disabled: boolean;
}) {
  const run = useShot((s) => s.run);
  const id = member.id;
  const own = shownChannels(member, shot.rigs).filter((c) => c.id.startsWith(deformChannel(deformer.id, '')));
  const move = (by: number) => run(moveDeformer, { id, deformer: deformer.id, by });
  return (
    <section aria-label={deformer.name} className="mb-2">
      <div className="flex items-center">
        <b className="grow font-medium">{deformer.name}</b>
        {first && last ? null : (
          <>
            <Hint text="Let it act earlier">
              <Button
                look="icon"
                className="size-6!"
                aria-label={`Let ${deformer.name} act earlier`}
                disabled={first || disabled}
                onClick={() => move(-1)}
              >
                <ArrowUp size={12} />
              </Button>
            </Hint>
            <Hint text="Let it act later">
              <Button
                look="icon"
                className="size-6!"
                aria-label={`Let ${deformer.name} act later`}
                disabled={last || disabled}
                onClick={() => move(1)}
              >
                <ArrowDown size={12} />
              </Button>
            </Hint>
          </>
        )}
        <Hint text="Take it away with its keys">
          <Button
            look="icon"
            className="size-6!"
            aria-label={`Take ${deformer.name} away`}
            disabled={disabled}
            onClick={() => run(removeDeformer, { id, deformer: deformer.id })}
          >
            <Trash2 size={12} />
          </Button>
        </Hint>
      </div>
      <div className="mb-0.5 flex flex-wrap items-center gap-1 text-sm text-graphite">
        {Object.entries(deformer.settings).map(([name, value]) => (
          <label key={name} className="flex items-center gap-1">
            {words[name] ?? name}
            <select
              aria-label={`${deformer.name}: ${name}`}
              value={String(value)}
              onChange={(event) =>
                run(setDeformer, { id, deformer: deformer.id, settings: { [name]: event.target.value } })
              }
              className="h-6 rounded-md border border-rule bg-paper px-0.5 text-sm text-ink"
            >
              {choices[name]?.map((choice) => (
                <option key={choice} value={choice}>
                  {words[choice] ?? choice}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      {own.map((channel) => (
        <ChannelRow
          key={channel.id}
          shot={shot}
          member={member}
          channel={{ ...channel, group: channel.label, label: '' }}
          first
          disabled={disabled}
        />
      ))}
    </section>
  );
}
