import {
  channelPath,
  channelState,
  chooseKeyed,
  findFlips,
  isLocked,
  keyedChannels,
  type Member,
  type Shot,
  shownChannels,
  splitPath,
} from '@varrup/core';
import { MoreHorizontal } from 'lucide-react';
import { useMemo } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { RigFields } from '../rigs/RigFields.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Spacing } from '../spacing/Spacing.tsx';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine, MenuWord } from '../ui/Menu.tsx';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';
import { ChannelRow, changeAll, KeyGlyph, type RowProps } from './ChannelRow.tsx';
import { ColourRow } from './ColourRow.tsx';
import { Deformers } from './Deformers.tsx';
import { FormFields } from './FormFields.tsx';
import { OrientationFields } from './OrientationFields.tsx';
import { TurnsBy } from './TurnsBy.tsx';

/** The channels of what is picked, and how the frames between two of its keys lie. */
export function ChannelsPanel({ shot }: { shot: Shot }) {
  const lead = useSelection((s) => s.picked.at(-1));
  // Values of the frame one is on.
  usePlayhead((p) => p.settled);
  const member = lead ? shot.members.get(lead) : undefined;
  return (
    <>
      {member ? (
        <Channels shot={shot} member={member} />
      ) : (
        <p className="p-4 text-graphite">Pick something in the stage or in the cast to see its channels.</p>
      )}
      <Spacing />
    </>
  );
}

/** The channels of what is picked: what they hold, how they stand on this frame, and every way to key them. */
function Channels({ shot, member }: { shot: Shot; member: Member }) {
  const count = useSelection((s) => s.picked.length);
  const frame = usePlayhead((p) => p.settled);
  const channels = shownChannels(member, shot.rigs);
  const keyedHere = channels.filter((c) => channelState(shot, channelPath(member.id, c.id), frame) === 'keyed').length;
  const locked = isLocked(shot, member.id);
  return (
    <>
      <header className="px-4 pt-1.5 pb-2">
        <div className="flex items-baseline justify-between gap-2">
          <h2 className="truncate font-semibold" title={member.name}>
            {member.name}
            {count > 1 ? <span className="font-normal text-graphite"> and {count - 1} more</span> : null}
          </h2>
          <span className={`shrink-0 text-sm ${keyedHere > 0 ? 'font-medium text-ink' : 'text-graphite'}`}>
            {keyedHere > 0 ? `${keyedHere} keyed here` : 'not keyed here'}
          </span>
        </div>
        <KeyButtons shot={shot} member={member} disabled={locked} />
        {member.kind === 'control' ? <ControlActions disabled={locked} /> : null}
        <Flips shot={shot} />
        {locked ? <p className="mt-1 text-sm text-graphite">Locked: unlock it in the cast to change it.</p> : null}
      </header>
      <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
        {channels
          .filter((c) => !c.id.startsWith('deform.'))
          .map((channel, i) => {
            const first = channels[i - 1]?.group !== channel.group;
            if (channel.group === 'colour')
              return first ? <ColourRow key="colour" shot={shot} member={member} disabled={locked} /> : null;
            if (channel.id === 'visible')
              return <VisibleRow key="visible" shot={shot} member={member} disabled={locked} />;
            if (channel.id === 'orientation')
              return <OrientationFields key="orientation" shot={shot} member={member} disabled={locked} />;
            return (
              <ChannelRow
                key={channel.id}
                shot={shot}
                member={member}
                channel={channel}
                first={first}
                disabled={locked}
              />
            );
          })}
        {member.kind === 'control' ? null : (
          <>
            <Button
              className="mt-1 -ml-2 text-sm text-graphite"
              disabled={locked}
              onClick={() => useQuestion.getState().ask('add-channel')}
            >
              add a channel…
            </Button>
            <Deformers shot={shot} member={member} disabled={locked} />
            {member.kind === 'rig' ? (
              <RigFields shot={shot} member={member} />
            ) : (
              <FormFields member={member} disabled={locked} />
            )}
          </>
        )}
        <TurnsBy member={member} disabled={locked} />
      </div>
    </>
  );
}

/** What is done with a control besides keying it. */
function ControlActions({ disabled }: { disabled: boolean }) {
  const ways = [
    ['rest.all', 'rest'],
    ['pose.mirror', 'mirror'],
    ['rig.partners', 'other side'],
    ['rig.plant', 'plant'],
    ['limb.switch', 'joints'],
  ] as const;
  return (
    <fieldset className="mt-1 flex flex-wrap gap-0.5" aria-label="The control">
      {ways.map(([id, word]) => (
        <Hint key={id} text={commandOf(id).label} keys={shortcutOf(id)}>
          <Button
            className="h-6! px-1.5! text-sm text-graphite"
            disabled={disabled}
            onClick={() => commandOf(id).run()}
          >
            {word}
          </Button>
        </Hint>
      ))}
    </fieldset>
  );
}

/** The ways of keying, a press each. */
function KeyButtons({ shot, member, disabled }: RowProps) {
  const channels = useSelection((s) => s.channels);
  const selection = useSelection((s) => s.picked);
  const run = useShot((s) => s.run);
  const picked = channels.length;
  const chosen = [
    ...new Set(channels.filter((p) => selection.includes(splitPath(p).member)).map((p) => splitPath(p).channel)),
  ];
  const ways = [
    ['key.all', 'key all'],
    ['key.move', 'move'],
    ['key.turn', 'turn'],
    ['key.size', 'size'],
    ['key.picked', 'picked'],
  ] as const;
  return (
    <fieldset className="mt-2 flex gap-0.5" aria-label="Key on this frame">
      {ways.map(([id, word]) => (
        <Hint key={id} text={commandOf(id).label} keys={shortcutOf(id)}>
          <Button
            look={id === 'key.all' ? 'solid' : 'pill'}
            className="h-6! grow px-1! text-sm"
            aria-label={commandOf(id).label}
            disabled={disabled || (id === 'key.picked' && picked === 0)}
            onClick={() => commandOf(id).run()}
          >
            {id === 'key.all' && member.keyed ? `key ${keyedChannels(member, shot.rigs).length}` : word}
          </Button>
        </Hint>
      ))}
      <Menu
        align="end"
        trigger={
          <Button
            look="icon"
            className="size-6!"
            disabled={disabled}
            aria-label="More ways to key"
            title="More ways to key"
          >
            <MoreHorizontal size={14} />
          </Button>
        }
      >
        {(['key.changed', 'key.animated', 'key.axis.x', 'key.axis.y', 'key.axis.z', 'set.key'] as const).map((id) => (
          <MenuItem key={id} keys={shortcutOf(id)} onPick={() => commandOf(id).run()}>
            {commandOf(id).label}
          </MenuItem>
        ))}
        <MenuLine />
        <MenuWord>key all means, for what is picked</MenuWord>
        <MenuItem checked={!member.keyed} onPick={() => run(chooseKeyed, { ids: selection, channels: null })}>
          move, turn, size and its own channels
        </MenuItem>
        <MenuItem
          checked={member.keyed !== undefined}
          disabled={chosen.length === 0}
          onPick={() => run(chooseKeyed, { ids: selection, channels: chosen })}
        >
          {chosen.length === 0
            ? 'picked channels: pick some first'
            : chosen.length === 1
              ? 'the one picked channel'
              : `the ${chosen.length} picked channels`}
        </MenuItem>
      </Menu>
    </fieldset>
  );
}

/** Says where an angle jumps round by nearly a whole turn, and unrolls it. */
function Flips({ shot }: { shot: Shot }) {
  const selection = useSelection((s) => s.picked);
  const flips = useMemo(() => findFlips(shot, selection), [shot, selection]);
  if (flips.length === 0) return null;
  const [first] = flips;
  return (
    <div role="status" className="mt-1.5 flex items-center gap-1 rounded-lg bg-well px-2 py-1 text-sm">
      <span className="min-w-0 grow">
        The turn flips by {Math.round((first.jump * 180) / Math.PI)}° between {first.from} and {first.to}
        {flips.length > 1 ? `, and ${flips.length - 1} more` : ''}.
      </span>
      <Hint text={commandOf('turn.unroll').label} keys={shortcutOf('turn.unroll')}>
        <Button look="solid" className="h-6! px-2!" onClick={() => commandOf('turn.unroll').run()}>
          unroll
        </Button>
      </Hint>
    </div>
  );
}

function VisibleRow({ shot, member, disabled }: RowProps) {
  const frame = usePlayhead((p) => p.settled);
  const path = channelPath(member.id, 'visible');
  const seen = (live.now?.value(member.id, 'visible') ?? 1) >= 0.5;
  return (
    <div className="mt-1.5 grid grid-cols-[4.2rem_1.6rem_1fr_1.5rem] items-center gap-x-1">
      <span className="text-graphite">visible</span>
      <span />
      <label className="flex h-6 items-center gap-2">
        <input
          type="checkbox"
          checked={seen}
          disabled={disabled}
          aria-label="visible"
          onChange={(e) => changeAll(member.id, 'visible', e.target.checked ? 1 : 0, useShot.getState().run)}
          className="accent-blue"
        />
        {seen ? 'seen' : 'hidden'}
      </label>
      <KeyGlyph paths={[path]} state={channelState(shot, path, frame)} name="visible" disabled={disabled} />
    </div>
  );
}
