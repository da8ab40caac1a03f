import { clipAtWork } from '../../clip/at-work.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { Refused } from '../../schema/refused.ts';
import { type Company, companyTracks } from '../../track/company.ts';
import { defineCommand } from '../edit.ts';
import { layByClip } from './clips.ts';

/**
 * Puts what was tried in company in the place of a rig's tracks, up to a frame; the shot plays up to there. While it is tried this is shown, and may go on and
 * on; kept it is an arrangement like any other.
 */
export const tryCompany = defineCommand<{ company: Company; until: number }>({
  name: 'company.try',
  label: ({ company }, shot) => `keep what ${memberWords(shot, [company.rig])} was tried in`,
  apply(shot, { company, until }) {
    if (shot.members.get(company.rig)?.kind !== 'rig') throw new Refused('Only a rig has clips to try.');
    const work = clipAtWork(shot, company.rig);
    const laidBy: Shot = work ? layByClip.apply(shot, { id: work.id }) : shot;
    const tracks = companyTracks(laidBy, company, until);
    const others = shot.tracks.values().filter((t) => t.rig === company.rig);
    const left = laidBy.tracks.withoutAll(others.map((t) => t.id));
    const play = { first: company.from, last: Math.max(until, company.from + 1) };
    const range = { first: Math.min(shot.range.first, play.first), last: Math.max(shot.range.last, play.last) };
    return { ...laidBy, tracks: left.withAll(tracks.map((t) => [t.id, t])), play, range };
  },
});
