import type { Key } from '../curve/key.ts';
import type { Clip } from '../document/clip.ts';
import type { Member } from '../document/member.ts';
import type { RecipeSettings } from '../document/recipe.ts';
import type { Shot } from '../document/shot.ts';

/** One setting of a kit, as the interface asks for it. */
export type Field = {
  /** The part of the card it stands in; without one it is always in sight. */
  readonly section?: string;
} & (
  | {
      readonly kind: 'number';
      readonly name: string;
      readonly label: string;
      readonly hint?: string;
      readonly unit?: '' | 'm' | '°' | 'm/s' | 'm/s²' | 'frames' | '%';
      readonly min: number;
      readonly max: number;
      readonly step: number;
      readonly start: number;
      /** Whole numbers only. */
      readonly whole?: boolean;
      readonly when?: (settings: RecipeSettings) => boolean;
    }
  | {
      readonly kind: 'switch';
      readonly name: string;
      readonly label: string;
      readonly hint?: string;
      readonly start: boolean;
      readonly when?: (settings: RecipeSettings) => boolean;
    }
  | {
      readonly kind: 'choice';
      readonly name: string;
      readonly label: string;
      readonly hint?: string;
      readonly start: string;
      readonly choices: readonly { readonly value: string; readonly label: string }[];
      readonly when?: (settings: RecipeSettings) => boolean;
    }
  /** One of the member's channels that have keys. */
  | {
      readonly kind: 'channel';
      readonly name: string;
      readonly label: string;
      readonly hint?: string;
      readonly start: string;
    }
  /** Somebody else of the cast, by id; nobody where it is empty. */
  | {
      readonly kind: 'member';
      readonly name: string;
      readonly label: string;
      readonly hint?: string;
      readonly start: string;
      readonly when?: (settings: RecipeSettings) => boolean;
    }
);

/** What a kit is asked to do. `shot` holds no keys this recipe has written itself. */
export interface Task {
  readonly shot: Shot;
  readonly member: Member;
  readonly settings: RecipeSettings;
}

/** What a kit has come to: keys for channels, or a sentence that says why not. */
export type Written =
  | {
      readonly keys: Readonly<Record<string, Key[]>>;
      /** The member with a deformer it needs and did not have. */
      readonly member?: Member;
      /** The clip its keys belong to, where it says more of that than keys. */
      readonly clip?: Clip;
      /** What is worth knowing about it, in a sentence. */
      readonly note?: string;
    }
  | { readonly problem: string };

/**
 * A helper that writes ordinary keys from a few settings. A new kit is one file beside this one and one line in `index.ts`: the
 * interface builds its card from `fields`.
 */
export interface Kit {
  readonly id: string;
  readonly name: string;
  /** What it does, in a sentence. */
  readonly about: string;
  readonly fields: readonly Field[];
  /** Settings read from the shot as it stands, where there is something better than each field's start. */
  suggest?(shot: Shot, member: Member, frame: number, path: string | null): RecipeSettings;
  /** It works on a rig as a whole, whichever of its controls is picked. */
  readonly whole?: true;
  /** Whether it is offered for a member; for all where it does not say. */
  fits?(member: Member): boolean;
  /** Fields that say nothing for a member. */
  lacks?(shot: Shot, member: Member): readonly string[];
  /** What choosing a value of a choice sets besides. */
  chosen?(shot: Shot, member: Member, field: string, value: string): RecipeSettings;
  write(task: Task): Written;
}

/** The settings a new recipe of a kit begins with. */
export const firstSettings = (
  kit: Kit,
  shot: Shot,
  member: Member,
  frame: number,
  path: string | null,
): RecipeSettings => ({
  ...Object.fromEntries(kit.fields.map((f) => [f.name, f.start])),
  ...kit.suggest?.(shot, member, frame, path),
});

/** The settings with everything that is missing or out of its range brought in order. */
export function soundSettings(kit: Kit, settings: RecipeSettings): RecipeSettings {
  return Object.fromEntries(
    kit.fields.map((field) => {
      const given = settings[field.name];
      if (field.kind === 'number') {
        const value = typeof given === 'number' ? Math.min(Math.max(given, field.min), field.max) : field.start;
        return [field.name, field.whole ? Math.round(value) : value];
      }
      if (field.kind === 'switch') return [field.name, typeof given === 'boolean' ? given : field.start];
      const allowed =
        field.kind === 'channel' || field.kind === 'member' || field.choices.some((c) => c.value === given);
      return [field.name, typeof given === 'string' && allowed ? given : field.start];
    }),
  );
}

export const numberOf = (settings: RecipeSettings, name: string): number => Number(settings[name] ?? 0);

/** A setting that is a frame of the shot. */
export const frameField = (name: string, label: string, start = 1): Field => ({
  kind: 'number',
  name,
  label,
  unit: 'frames',
  min: -10_000,
  max: 200_000,
  step: 1,
  start,
  whole: true,
});
