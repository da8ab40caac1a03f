import { z } from 'zod';
import { rotationOrders } from '../pose/rotation-order.ts';
import { FormulaSchema } from '../schema/formula.ts';
import { IdSchema, NameSchema, RigVersionSchema } from '../schema/ids.ts';
import { MediaHashSchema } from '../schema/media-hash.ts';
import { ColourSchema, QuaternionSchema, ValueSchema } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';
import { RigPlanSchema } from './plan.ts';

/**
 * A rig as it is kept in the library: joints, controls, what ties them together, and the body they move. Plain JSON. All places
 * are in the rig's own space at rest, in metres, +Y up and +Z forward; the left side has positive x. Controls are square to
 * that space at rest, so that a turn about x is the same nod for a hand as for a head.
 */

export const rigLimits = {
  joints: 400,
  controls: 300,
  dials: 40,
  meshes: 200,
  vertices: 60_000,
  targets: 64,
} as const;

const Place = z.tuple([ValueSchema, ValueSchema, ValueSchema]).readonly();
export type Place = z.infer<typeof Place>;

/** A part that can carry others: a joint, a control, or the frame along a limb that its pole lives in. */
const CarrierSchema = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('joint'), id: PartIdSchema }),
  z.strictObject({ is: z.literal('control'), id: PartIdSchema }),
  z.strictObject({ is: z.literal('along'), id: PartIdSchema }),
]);
export type Carrier = z.infer<typeof CarrierSchema>;

/** A number worked out from dials, in the units animators see; inputs are `control.channel` of the same rig. */
const DrivenSchema = FormulaSchema.omit({ mode: true });
export type Driven = z.infer<typeof DrivenSchema>;
const driven3 = z.tuple([DrivenSchema.nullable(), DrivenSchema.nullable(), DrivenSchema.nullable()]);

/** What moves a joint, beside its parent. Joints of limbs and spines are moved by those. */
const MovedBySchema = z.discriminatedUnion('kind', [
  /** It goes with a control as it stands to it at rest. */
  z.strictObject({ kind: z.literal('control'), control: PartIdSchema }),
  /** It takes a share of a control's turn upon itself. */
  z.strictObject({ kind: z.literal('share'), control: PartIdSchema, share: z.number().min(0).max(1) }),
  /** It goes with the sole of a foot, or with what lies before its ball. */
  z.strictObject({ kind: z.literal('foot'), foot: PartIdSchema }),
  /** Formulas of dials turn it (degrees), move it (metres) and size it. */
  z.strictObject({
    kind: z.literal('dials'),
    turn: driven3.default([null, null, null]),
    move: driven3.default([null, null, null]),
    size: driven3.default([null, null, null]),
  }),
]);

const JointSchema = z.strictObject({
  id: PartIdSchema,
  parent: PartIdSchema.nullable(),
  place: Place,
  turn: QuaternionSchema.default([0, 0, 0, 1]),
  by: MovedBySchema.optional(),
});
export type RigJoint = z.infer<typeof JointSchema>;

export const sides = ['left', 'right', 'centre'] as const;
export type Side = (typeof sides)[number];
export const controlForms = ['ring', 'halo', 'square', 'diamond', 'fan', 'pin', 'cross'] as const;

const limit = z.strictObject({ min: ValueSchema.optional(), max: ValueSchema.optional() });

/** One more number of a control: a roll, a curl, a switch. Angles are in degrees to see and in radians here. */
const DialSchema = z.strictObject({
  id: PartIdSchema,
  label: NameSchema,
  unit: z.enum(['', '°', 'm']).default(''),
  min: ValueSchema,
  max: ValueSchema,
  initial: ValueSchema.default(0),
  /** Whether "key every channel" means it: not so for what is set once and left. */
  everyday: z.boolean().default(true),
  /** -1 where a mirrored pose has the opposite number. */
  mirror: z.union([z.literal(1), z.literal(-1)]).default(1),
});
export type Dial = z.infer<typeof DialSchema>;

const openAxes = z.string().regex(/^x?y?z?$/, 'names axes: x, y and z');

const ControlSchema = z.strictObject({
  id: PartIdSchema,
  name: NameSchema,
  side: z.enum(sides),
  /** Its counterpart on the other side. */
  partner: PartIdSchema.nullable().default(null),
  form: z.enum(controlForms),
  /** How far its form reaches from the middle, and where that middle is from its place. */
  reach: z.number().gt(0).max(100),
  off: Place.default([0, 0, 0]),
  /** Which way its form faces. */
  faces: z.enum(['x', 'y', 'z']).default('y'),
  place: Place,
  /** What carries it; nothing is the rig as a whole. */
  in: CarrierSchema.nullable().default(null),
  /** Axes that are free; the others are locked. */
  move: openAxes.default(''),
  turn: openAxes.default(''),
  size: openAxes.default(''),
  order: z.enum(rotationOrders).default('zxy'),
  rotation: z.enum(['angles', 'orientation']).default('angles'),
  /** How far channels should go, by channel id, in metres, radians and factors. */
  limits: z.record(z.string().max(60), limit).default({}),
  dials: z.array(DialSchema).max(rigLimits.dials).default([]),
  /** Joints that stand on something where this control is planted. */
  stands: z.array(PartIdSchema).max(20).default([]),
  /** The joint that is meant where something is given to this control to hold. */
  holds: PartIdSchema.nullable().default(null),
});
export type RigControl = z.infer<typeof ControlSchema>;

/** Two bones and where they end. */
const LimbSchema = z.strictObject({
  id: PartIdSchema,
  name: NameSchema,
  upper: PartIdSchema,
  lower: PartIdSchema,
  end: PartIdSchema,
  /** What the end is reached to: a control, or a foot. */
  target: z.discriminatedUnion('is', [
    z.strictObject({ is: z.literal('control'), id: PartIdSchema }),
    z.strictObject({ is: z.literal('foot'), id: PartIdSchema }),
  ]),
  pole: PartIdSchema,
  /** Controls that turn upper, lower and end joint by joint. */
  joints: z.tuple([PartIdSchema, PartIdSchema, PartIdSchema]),
  /** The control with the limb's dials: `reach` (1 by IK, 0 joint by joint), `soft` and `stretch`. */
  dials: PartIdSchema,
  /**
   * The way from the upper joint to the end where the frame that carries the pole is square to the rig. That frame swings with
   * the limb the shortest way from here, so the opposite direction is where it cannot follow: choose one the limb never leaves
   * by half a turn.
   */
  along: Place,
  /** The share of the end's own twist about the limb that the pole goes along with. */
  follows: z.number().min(0).max(1).default(0),
});
export type RigLimb = z.infer<typeof LimbSchema>;

/** A foot that rolls over heel, ball and toe. */
const FootSchema = z.strictObject({
  id: PartIdSchema,
  /** The control with the dials `heel`, `ball`, `toe` and `bank`. */
  control: PartIdSchema,
  heel: Place,
  ball: Place,
  toe: Place,
  inner: Place,
  outer: Place,
});
export type RigFoot = z.infer<typeof FootSchema>;

/** Joints along a curve between two controls. */
const SpineSchema = z.strictObject({
  id: PartIdSchema,
  joints: z.array(PartIdSchema).min(3).max(40),
  from: CarrierSchema,
  to: CarrierSchema,
});

/** A joint that turns its front to a control, by a share. */
const LookSchema = z.strictObject({
  joint: PartIdSchema,
  at: PartIdSchema,
  /** `control.dial` from 0 to 1. */
  share: z.string().max(60),
});

export const finishes = ['wood', 'felt', 'tin', 'ink'] as const;

/** Tenths of a millimetre: fine enough for the eye, and short to write. */
export const MESH_UNIT = 1e-4;
/** What the weights of a vertex sum to. */
export const WHOLE_WEIGHT = 255;

const TargetSchema = z.strictObject({
  id: PartIdSchema,
  name: NameSchema,
  /** Its amount, from 0 to 1. */
  by: DrivenSchema,
  /** The vertices it moves, and three offsets for each, in tenths of a millimetre. */
  vertices: z.array(z.number().int().min(0)).max(rigLimits.vertices),
  offsets: z.array(z.number().int()).max(3 * rigLimits.vertices),
});

/** What places on a picture are told in: fine enough for the largest. */
export const PICTURE_UNIT = 1e-5;

/** What a mesh is made of where none of the finishes says it. */
const MaterialSchema = z.strictObject({
  /** 0 a mirror to 1 chalk. */
  roughness: z.number().min(0).max(1),
  metalness: z.number().min(0).max(1),
  /** Whether it is seen from behind too. */
  bothSides: z.boolean(),
  /** A picture that its colour is multiplied with. */
  picture: z
    .strictObject({
      media: MediaHashSchema,
      /** Where on it each vertex lies, from its upper left corner, in hundred thousandths of it; beyond its edges it begins again. */
      places: z
        .array(z.number().int().min(-1e9).max(1e9))
        .min(6)
        .max(2 * rigLimits.vertices),
      /** Whether it is cut out where the picture is clearer than half. */
      cutOut: z.boolean(),
    })
    .optional(),
});

const MeshSchema = z.strictObject({
  id: PartIdSchema,
  colour: ColourSchema,
  finish: z.enum(finishes),
  /** In place of the finish. */
  material: MaterialSchema.optional(),
  /** Three numbers a vertex, tenths of a millimetre. */
  positions: z
    .array(z.number().int())
    .min(9)
    .max(3 * rigLimits.vertices),
  triangles: z
    .array(z.number().int().min(0))
    .min(3)
    .max(12 * rigLimits.vertices),
  /** One joint for the whole of it, or up to four a vertex with weights that sum to 255. */
  skin: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('rigid'), joint: PartIdSchema }),
    z.strictObject({
      kind: z.literal('smooth'),
      joints: z.array(PartIdSchema).min(1).max(rigLimits.joints),
      /** Places in `joints`, four a vertex. */
      indices: z.array(z.number().int().min(0)).max(4 * rigLimits.vertices),
      weights: z.array(z.number().int().min(0).max(WHOLE_WEIGHT)).max(4 * rigLimits.vertices),
    }),
  ]),
  targets: z.array(TargetSchema).max(rigLimits.targets).default([]),
});
export type RigMesh = z.infer<typeof MeshSchema>;

/** Controls that belong together, in the order they are shown. */
const RigSetSchema = z.strictObject({
  id: PartIdSchema,
  name: NameSchema,
  side: z.enum(sides),
  controls: z.array(PartIdSchema).min(1).max(rigLimits.controls),
});

export const RigSchema = z.strictObject({
  id: IdSchema,
  version: RigVersionSchema,
  name: NameSchema,
  /** What is new in this version, for people. */
  changes: z.string().max(2_000),
  joints: z.array(JointSchema).min(1).max(rigLimits.joints),
  controls: z.array(ControlSchema).max(rigLimits.controls),
  limbs: z.array(LimbSchema).max(40).default([]),
  feet: z.array(FootSchema).max(40).default([]),
  spines: z.array(SpineSchema).max(40).default([]),
  looks: z.array(LookSchema).max(40).default([]),
  meshes: z.array(MeshSchema).max(rigLimits.meshes),
  sets: z.array(RigSetSchema).max(60).default([]),
  /** What it was built of, where it was built here. */
  plan: RigPlanSchema.optional(),
});

/** One version of a rig. It never changes: what is better is a new version. */
export type Rig = z.infer<typeof RigSchema>;
/** A rig as code writes it, defaults left out. */
export type RigDraft = z.input<typeof RigSchema>;
