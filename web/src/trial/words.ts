import { channelWords, type Shot, type Weighed } from '@varrup/core';

const keys = (n: number, does: string, do_: string) => (n === 1 ? `1 key ${does}` : `${n} keys ${do_}`);

/** What a trial would change, in words. */
export function weighedWords(shot: Shot, weighed: Weighed): string[] {
  const { channels, come, go, move, change } = weighed;
  if (channels === 0) return ['No key changes.'];
  const parts = [
    come > 0 ? keys(come, 'comes', 'come') : '',
    change > 0 ? keys(change, 'changes', 'change') : '',
    move > 0 ? keys(move, 'moves', 'move') : '',
    go > 0 ? keys(go, 'goes', 'go') : '',
  ].filter(Boolean);
  const on = channels === 1 ? 'on one channel' : `on ${channels} channels`;
  const furthest = (['m', '°', ''] as const).flatMap((unit) => {
    const there = weighed.furthest[unit];
    return there ? `${amount(there.by, unit)} in ${channelWords(shot, [there.path])} at ${there.frame}` : [];
  });
  return [`${parts.join(', ')}, ${on}.`, ...(furthest.length > 0 ? [`At most ${furthest.join('; ')}.`] : [])];
}

function amount(by: number, unit: 'm' | '°' | ''): string {
  if (unit === '°') return `${trimmed((by * 180) / Math.PI)}°`;
  if (unit === 'm') return by < 0.1 ? `${trimmed(by * 1000)} mm` : `${by.toFixed(3)} m`;
  return by.toFixed(3);
}

const trimmed = (n: number) => (n < 10 ? n.toFixed(1) : n.toFixed(0));
