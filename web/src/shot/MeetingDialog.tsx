import { channelValue, channelWords, findChannel, type Shot, splitPath } from '@varrup/core';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useShot } from './shot-store.ts';

/** As many places are listed; of more it says how many, and they go with all. */
const MOST_LISTED = 100;

/** Somebody else has changed what was changed here as well: both are shown, and one is chosen of each. */
export function MeetingDialog() {
  const meeting = useShot((s) => s.meeting);
  return meeting ? <Meeting key={meeting.places.join()} {...meeting} /> : null;
}

function Meeting({ places, mine, theirs, choose }: NonNullable<ReturnType<typeof useShot.getState>['meeting']>) {
  // What others have committed is in the log whatever is chosen; mine is nowhere else.
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(places));
  const more = places.length - MOST_LISTED;
  const put = (place: string, isMine: boolean) => {
    const next = new Set(chosen);
    if (isMine) next.add(place);
    else next.delete(place);
    setChosen(next);
  };
  return (
    <Dialog
      open
      // What is not decided is kept apart: nothing is lost that way.
      onClose={() => choose('apart')}
      title="Somebody else has changed the same"
      about="All else that was changed, here and there, is in the shot already. Whose is it to be here?"
      wide
    >
      <div className="max-h-96 overflow-y-auto">
        <table className="w-full text-left">
          <thead className="text-graphite">
            <tr>
              <th className="py-1 font-medium">What</th>
              <th className="py-1 font-medium">Theirs</th>
              <th className="py-1 font-medium">Mine</th>
            </tr>
          </thead>
          <tbody>
            {places.slice(0, MOST_LISTED).map((place) => {
              const what = wordsOf(place, mine, theirs);
              const option = (isMine: boolean) => (
                <label className="flex items-center gap-1.5">
                  <input
                    type="radio"
                    className="accent-blue"
                    name={place}
                    aria-label={`${what}: ${isMine ? 'mine' : 'theirs'}`}
                    checked={chosen.has(place) === isMine}
                    onChange={() => put(place, isMine)}
                  />
                  {stateOf(place, isMine ? mine : theirs)}
                </label>
              );
              return (
                <tr key={place} className="border-t border-rule align-top">
                  <td className="py-1.5 pr-3">{what}</td>
                  <td className="tabular py-1.5 pr-3">{option(false)}</td>
                  <td className="tabular py-1.5">{option(true)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {more > 0 ? <p className="mt-1 text-graphite">…and {more} more.</p> : null}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={() => choose('apart')}>Mine as a shot of its own</Button>
        {places.length > 1 ? (
          <>
            <Button onClick={() => setChosen(new Set())}>all theirs</Button>
            <Button onClick={() => setChosen(new Set(places))}>all mine</Button>
          </>
        ) : null}
        <Button look="pill" onClick={() => choose(chosen)}>
          {wordsFor(chosen.size, places.length)}
        </Button>
      </div>
    </Dialog>
  );
}

/** What is kept, as it is chosen. */
function wordsFor(mine: number, all: number): string {
  if (mine === 0) return 'Keep theirs';
  return mine === all ? 'Keep mine' : `Keep ${mine} of mine, ${all - mine} of theirs`;
}

/** A place of the document in the words of the desk. */
function wordsOf(place: string, mine: Shot, theirs: Shot): string {
  const [table, id, part, name] = place.slice(1).split('/');
  if (table === 'curves' || table === 'loose' || table === 'formulas') {
    const shot = mine.members.has(splitPath(id).member) ? mine : theirs;
    return channelWords(shot, [id]);
  }
  if (table !== 'members') return [table, id].filter(Boolean).join(' ');
  const member = (mine.members.get(id) ?? theirs.members.get(id))?.name ?? id;
  if (part === 'values' && name) return channelWords(mine.members.has(id) ? mine : theirs, [`${id}.${name}`]);
  return part ? `${member}: ${part}` : member;
}

/** What there is at a place, in a few words. */
function stateOf(place: string, shot: Shot): string {
  const [table, id, part, name] = place.slice(1).split('/');
  if (table === 'curves') {
    const keys = shot.curves.get(id)?.keys;
    if (!keys) return 'no keys';
    return `${keys.length} ${keys.length === 1 ? 'key' : 'keys'}, ${valueNow(shot, id)} now`;
  }
  if (table === 'loose') return `${valueNow(shot, id)}${shot.loose.has(id) ? ', loose' : ''}`;
  if (table === 'formulas') return shot.formulas.get(id)?.text ?? 'no formula';
  if (table === 'members') {
    const member = shot.members.get(id);
    if (!member) return 'taken out';
    if (!part) return 'in the cast';
    if (part === 'values') return name ? shown(member.values[name] ?? 'as it comes') : 'changed';
    return shown((member as Record<string, unknown>)[part]);
  }
  const record = (shot as unknown as Record<string, unknown>)[table];
  return id === undefined ? shown(record) : 'changed';
}

/** What a channel is at the frame one is on, in its unit. */
function valueNow(shot: Shot, path: string): string {
  const { member, channel } = splitPath(path);
  const value = channelValue(shot, path, usePlayhead.getState().frame);
  const unit = findChannel(shot.members.at(member), channel, shot.rigs)?.unit ?? '';
  if (typeof value !== 'number') return 'turned';
  return `${shown(unit === '°' ? (value * 180) / Math.PI : value)}${unit && ` ${unit}`}`;
}

function shown(value: unknown): string {
  if (typeof value === 'number') return String(Math.round(value * 1000) / 1000);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' ? value : 'changed';
}
