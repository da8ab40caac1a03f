import { castOrder, holdAt, removeHold, type Shot, withDescendants } from '@varrup/core';
import { carry } from '../commands/posing.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';
import { indent } from './indent.ts';

type Carrying = Parameters<typeof carry>[0];

/** Says who carries what is picked from this frame on: a hand takes a boathook, and lets it go. */
export function HoldDialog() {
  const open = useQuestion((q) => q.open === 'hold');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.shot);
  const selection = useSelection((s) => s.picked);
  const frame = Math.round(usePlayhead((p) => p.settled));
  if (!open || !shot || selection.length === 0) return null;
  const lead = shot.members.at(selection[selection.length - 1]);
  const changesHere = selection.some((id) => shot.members.get(id)?.holds.some((h) => h.frame === frame));
  const now = holdAt(lead, frame)?.by;
  const choose = (by: Carrying) => {
    carry(by);
    ask(null);
  };
  return (
    <Dialog
      open
      onClose={() => ask(null)}
      title={`From frame ${frame} on, carried by`}
      about="Nothing moves at this frame; from it on it goes along with whoever carries it."
    >
      <ul className="max-h-96 overflow-y-auto">
        <Choice
          words={lead.kind === 'control' ? 'its rig, as usual' : 'its parent, as usual'}
          now={!now || now.is === 'own'}
          onPick={() => choose({ is: 'own' })}
        />
        <Choice
          words="nobody: it stays where it is on the stage"
          now={now?.is === 'stage'}
          onPick={() => choose({ is: 'stage' })}
        />
        {holders(shot, selection).map(({ member, joint, words, depth }) => (
          <Choice
            key={`${member} ${joint}`}
            words={words}
            depth={depth}
            now={now?.is === 'member' && now.member === member && now.joint === joint}
            onPick={() => choose({ is: 'member', member, joint })}
          />
        ))}
      </ul>
      {changesHere ? (
        <Button
          className="mt-2 -ml-2 text-graphite"
          onClick={() => {
            useShot.getState().run(removeHold, { ids: selection, frame });
            ask(null);
          }}
        >
          take back the change at frame {frame}
        </Button>
      ) : null}
    </Dialog>
  );
}

function Choice({
  words,
  depth = 0,
  now,
  onPick,
}: {
  words: string;
  depth?: number;
  now: boolean;
  onPick: () => void;
}) {
  return (
    <li>
      <button
        type="button"
        className="h-7 w-full truncate rounded-md px-2 text-left hover:bg-well"
        style={{ paddingLeft: 8 + indent(depth) }}
        onClick={onPick}
      >
        {words}
        {now ? <span className="ml-2 text-sm text-moss-ink">now</span> : null}
      </button>
    </li>
  );
}

/** Everybody who can carry something, rigs by the joints of the controls that hold things, and their other controls' parts. */
function holders(shot: Shot, selection: readonly string[]) {
  const own = withDescendants(shot, selection);
  return castOrder(shot).flatMap(({ member, depth }) => {
    if (member.kind === 'control') return [];
    const whole = own.has(member.id) ? [] : [{ member: member.id, joint: null, words: member.name, depth }];
    if (member.kind !== 'rig') return whole;
    const controls = shot.rigs.find(member.shape)?.rig.controls ?? [];
    const hands = controls.flatMap((c) =>
      c.holds && !own.has(member.id)
        ? [{ member: member.id, joint: c.holds, words: `${member.name}: ${c.name}`, depth: depth + 1 }]
        : [],
    );
    return [...whole, ...hands];
  });
}
