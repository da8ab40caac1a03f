import { channelValue, channelWords, findChannel, type Shot, splitPath } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlayhead } from '../view/playhead.ts';

/** As many places are listed; of more it says how many. */
const MOST_LISTED = 12;

/** Somebody else has changed what was changed here as well: both are shown, and one is chosen. */
export function MeetingDialog() {
  const meeting = useShot((s) => s.meeting);
  if (!meeting) return null;
  const { places, mine, theirs, choose } = meeting;
  const more = places.length - MOST_LISTED;
  return (
    <Dialog
      open
      // What is not decided is kept apart: nothing is lost that way.
      onClose={() => choose('apart')}
      title="Somebody else has changed the same"
      about="All else that was changed, here and there, is in the shot already. Whose is it to be here?"
      wide
    >
      <table className="w-full text-left">
        <thead className="text-graphite">
          <tr>
            <th className="py-1 font-medium">What</th>
            <th className="py-1 font-medium">Theirs</th>
            <th className="py-1 font-medium">Mine</th>
          </tr>
        </thead>
        <tbody>
          {places.slice(0, MOST_LISTED).map((place) => (
            <tr key={place} className="border-t border-rule align-top">
              <td className="py-1.5 pr-3">{wordsOf(place, mine, theirs)}</td>
              <td className="tabular py-1.5 pr-3">{stateOf(place, theirs)}</td>
              <td className="tabular py-1.5">{stateOf(place, mine)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 ? <p className="mt-1 text-graphite">…and {more} more.</p> : null}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={() => choose('apart')}>Mine as a shot of its own</Button>
        <Button look="pill" onClick={() => choose('theirs')}>
          Keep theirs
        </Button>
        <Button look="pill" onClick={() => choose('mine')}>
          Keep mine
        </Button>
      </div>
    </Dialog>
  );
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
