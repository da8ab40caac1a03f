import { changeChannels, channelPath, colourChannels, colourText } from '@varrup/core';
import { usePreview } from '../shot/use-preview.ts';
import { useAutoKey } from '../view/auto-key.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { KeyGlyph, type RowProps, together } from './ChannelRow.tsx';

/** The colour of a member, its three channels as one. */
export function ColourRow({ shot, member, disabled }: RowProps) {
  const preview = usePreview('colour');
  const frame = usePlayhead((p) => p.settled);
  const paths = ['r', 'g', 'b'].map((c) => channelPath(member.id, `colour.${c}`));
  const [r, g, b] = ['r', 'g', 'b'].map((c) => live.now?.value(member.id, `colour.${c}`) ?? 1);
  const { mode: autoKey } = useAutoKey.getState();
  const values = (hex: string) =>
    Object.fromEntries(Object.entries(colourChannels(hex)).map(([id, v]) => [channelPath(member.id, id), v]));
  const hex = colourText(r, g, b);
  return (
    <div className="mt-1.5 grid grid-cols-[4.2rem_1.6rem_1fr_1.5rem] items-center gap-x-1">
      <span className="text-graphite">colour</span>
      <span />
      <label className="flex h-6 items-center gap-2">
        <input
          type="color"
          aria-label="colour"
          value={hex}
          disabled={disabled}
          onChange={(event) => preview.show(changeChannels, { frame, values: values(event.target.value), autoKey })}
          onBlur={preview.keep}
          className="h-5 w-8 rounded border border-rule bg-transparent p-0"
        />
        <span className="tabular text-sm text-graphite">{hex}</span>
      </label>
      <KeyGlyph paths={paths} state={together(shot, paths, frame)} name="colour" disabled={disabled} />
    </div>
  );
}
