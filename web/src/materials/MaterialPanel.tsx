import {
  type Cover,
  channelsOf,
  coverScale,
  hasForm,
  isLocked,
  type Material,
  type Member,
  makeOf,
  patternNames,
  removeMaterial,
  type Shot,
  setMaterial,
  stockMaterials,
} from '@varrup/core';
import { ImagePlus } from 'lucide-react';
import { ChannelRow } from '../channels/ChannelRow.tsx';
import { ColourRow } from '../channels/ColourRow.tsx';
import { HelpMark } from '../help/HelpMark.tsx';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useSelection } from '../view/selection.ts';
import { chooseCoverPicture } from './cover-picture.ts';
import { Swatch } from './Swatch.tsx';

/** What forms are made of: materials of the house, patterns and pictures on them, and how their surface is. */
export function MaterialPanel({ shot }: { shot: Shot }) {
  const picked = useSelection((s) => s.picked);
  const formed = picked.flatMap((id) => shot.members.get(id) ?? []).filter((m) => hasForm(m.kind));
  const open = formed.filter((m) => !isLocked(shot, m.id));
  const lead = formed.at(-1);
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <header className="flex items-center justify-between gap-2 pt-1.5">
        <h2 className="truncate font-semibold">
          {lead ? lead.name : 'Material'}
          {formed.length > 1 ? <span className="font-normal text-graphite"> and {formed.length - 1} more</span> : null}
        </h2>
        <HelpMark of="Material" />
      </header>
      {lead ? null : (
        <p className="mt-1 text-graphite">
          Pick a form in the stage or in the cast, then press what it is to be made of. Rigs bring what they are made of
          with them.
        </p>
      )}
      {lead && open.length === 0 ? (
        <p className="mt-1 text-sm text-graphite">Locked: unlock it in the cast to change it.</p>
      ) : null}
      <Stock ids={open.map((m) => m.id)} made={lead?.material?.name} />
      {lead ? <MadeOf shot={shot} member={lead} ids={open.map((m) => m.id)} /> : null}
    </div>
  );
}

function Stock({ ids, made }: { ids: readonly string[]; made: string | undefined }) {
  return (
    <ul aria-label="Materials of the house" className="mt-2 grid grid-cols-3 gap-1.5">
      {stockMaterials.map((stock) => (
        <li key={stock.name}>
          <button
            type="button"
            disabled={ids.length === 0}
            aria-pressed={made === stock.name}
            title={`Make what is picked of ${stock.name}`}
            onClick={() => useShot.getState().run(makeOf, { ids, stock })}
            className="flex w-full flex-col items-center gap-0.5 rounded-lg border border-transparent p-1 text-center hover:bg-well disabled:opacity-50 aria-pressed:border-blue aria-pressed:bg-blue-wash"
          >
            <Swatch colour={stock.colour} cover={stock.cover} />
            <span className="text-xs leading-tight text-graphite">{stock.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

const PAINT: Material = { name: 'paint', cover: null };
/** Where a pattern begins that is laid on by hand. */
const FIRST = { second: '#6b6f75', scale: 1, grain: 0.5 } as const;

function MadeOf({ shot, member, ids }: { shot: Shot; member: Member; ids: readonly string[] }) {
  const run = useShot((s) => s.run);
  const disabled = ids.length === 0;
  const material = member.material ?? PAINT;
  const lay = (cover: Cover | null) => run(setMaterial, { ids, material: { ...material, cover } });
  const choice = material.cover?.is === 'pattern' ? material.cover.pattern : (material.cover?.is ?? 'plain');
  const choose = (next: string) => {
    if (next === 'picture') void chooseCoverPicture(ids, material.name);
    else if (next === 'plain') lay(null);
    else {
      const pattern = patternNames.find((name) => name === next);
      const was = material.cover?.is === 'pattern' ? material.cover : FIRST;
      if (pattern) lay({ is: 'pattern', pattern, second: was.second, scale: was.scale, grain: was.grain });
    }
  };
  const surface = channelsOf(member, shot.rigs).filter((c) => c.id.startsWith('surface.'));
  return (
    <section aria-label="What it is made of" className="mt-3 border-t border-rule pt-2">
      <fieldset disabled={disabled} className="flex flex-col gap-1">
        <legend className="float-left mb-1 w-full text-sm text-graphite">
          {member.material ? `made of ${material.name}` : 'paint'}, the same all through the shot
        </legend>
        <Choice
          label="on it"
          value={choice}
          options={[
            ['plain', 'nothing'],
            ...patternNames.map((name) => [name, name] as const),
            ['picture', 'a picture…'],
          ]}
          onChange={choose}
        />
        {material.cover ? <CoverFields cover={material.cover} lay={lay} ids={ids} material={material} /> : null}
      </fieldset>
      <div className="mt-2">
        <ColourRow shot={shot} member={member} disabled={disabled} />
        {surface.map((channel) => (
          <ChannelRow key={channel.id} shot={shot} member={member} channel={channel} first disabled={disabled} />
        ))}
      </div>
      {member.material ? (
        <Button
          className="mt-1 -ml-2 text-sm text-graphite"
          disabled={disabled}
          onClick={() => run(removeMaterial, { ids })}
        >
          back to paint
        </Button>
      ) : null}
    </section>
  );
}

interface CoverProps {
  readonly cover: Cover;
  readonly lay: (cover: Cover) => void;
  readonly ids: readonly string[];
  readonly material: Material;
}

function CoverFields({ cover, lay, ids, material }: CoverProps) {
  const preview = usePreview('material');
  const show = (next: Cover) => preview.show(setMaterial, { ids, material: { ...material, cover: next } });
  return (
    <>
      {cover.is === 'pattern' ? (
        <Row label="second">
          <input
            type="color"
            aria-label="second colour"
            value={cover.second}
            onChange={(event) => show({ ...cover, second: event.target.value })}
            onBlur={preview.keep}
            className="h-5 w-8 rounded border border-rule bg-transparent p-0"
          />
          <span className="tabular text-sm text-graphite">{cover.second}</span>
        </Row>
      ) : (
        <Row label="">
          <Button look="pill" onClick={() => void chooseCoverPicture(ids, material.name)}>
            <ImagePlus size={14} className="mr-1 inline" aria-hidden />
            another picture…
          </Button>
        </Row>
      )}
      <Row label={cover.is === 'pattern' ? 'repeat' : 'width'}>
        <NumberField
          label={cover.is === 'pattern' ? 'one repeat' : 'width of the picture'}
          value={cover.scale}
          unit="m"
          step={0.01}
          digits={3}
          min={coverScale.least}
          max={coverScale.most}
          onPreview={(scale) => show({ ...cover, scale })}
          onCancel={preview.drop}
          onChange={(scale) => {
            preview.drop();
            lay({ ...cover, scale });
          }}
        />
      </Row>
      {cover.is === 'pattern' ? (
        <Row label="grain">
          <NumberField
            label="grain"
            value={cover.grain}
            step={0.01}
            digits={2}
            min={0}
            max={1}
            onChange={(grain) => lay({ ...cover, grain })}
          />
        </Row>
      ) : null}
    </>
  );
}
