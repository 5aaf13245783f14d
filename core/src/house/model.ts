import * as z from 'zod';
import { CableId } from '../rulebook/cables.js';
import { CatalogueBox, CatalogueDevice, Fitting } from '../vocabulary/catalogue-types.js';
import {
  BandKind,
  BoxKind,
  BoxMaterial,
  Clamps,
  HeightReference,
  NeutralException,
  PointRole,
  PowerState,
  RoomKind,
} from '../vocabulary/kinds.js';
import { CircuitUse } from '../vocabulary/room-kit-types.js';
import { LIMITS } from '../vocabulary/limits.js';
import { Landing } from '../vocabulary/terminal.js';
import { HouseRulebook } from '../rulebook/jurisdictions.js';
import { CornerId } from './corner.js';
import { Extra, WriteUp } from './paper.js';
import { Photo } from './photo.js';
import { FoundCause, Report } from './report.js';
import { Underlay } from './underlay.js';
import { Size } from '../vocabulary/size.js';
import { Colour, CubicInches, FootMark, Id, Inches, Name, Note, ShortText } from '../vocabulary/text.js';

/**
 * The model of a house, version 3. Lengths in inches, volumes in cubic inches, foot marks in feet, times in ISO 8601.
 * Every type is inferred from its schema; nothing is described twice.
 */

/**
 * That a record was drafted: by what it is known again when the house is drafted anew, why it is there, and its fields as they
 * were drafted, so that what a person changed since is told from what is as it was.
 */
export const Drafted = z.strictObject({
  key: z.string().min(1).max(200),
  /** The kind of kit and its item, or the plan of a circuit. */
  why: z.strictObject({
    kit: RoomKind.optional(),
    item: ShortText.optional(),
    circuit: CircuitUse.optional(),
  }),
  fields: z.record(z.string().regex(/^\w{1,60}$/), z.unknown()),
});
export type Drafted = z.infer<typeof Drafted>;

export const Storey = z.strictObject({
  id: Id,
  name: Name,
  ceilingIn: Inches.optional(),
  overhead: z.enum(['attic', 'storey', 'roof']).optional(),
  below: z.enum(['storey', 'basement', 'crawl-space', 'slab']).optional(),
  /** What holds its ceiling, and which way that runs on the plan. */
  framing: z.enum(['joists', 'trusses', 'i-joists']).optional(),
  framingRuns: z.enum(['across', 'up']).optional(),
  /** How many floors over the first one it lies, below it under zero; without it, by its place in the list. */
  level: z.int().min(-9).max(99).optional(),
  /** Whose permission there is to bore what holds its ceiling: the maker's chart, the engineer's letter. */
  boring: Name.optional(),
  /** The plan sheet that lies under its plan. */
  underlay: Underlay.optional(),
});

/** A wall of a room. */
export const WallOfRoomId = z.strictObject({ roomId: Id, corner: CornerId });

export const Room = z.strictObject({
  id: Id,
  storeyId: Id,
  name: Name,
  kind: RoomKind,
  /** Walking order through the house; fractions let a room be put between two others. */
  order: z.number().min(0).max(100_000),
  /** Clear between the walls, in inches, where there is no outline yet. */
  lengthIn: Inches.optional(),
  widthIn: Inches.optional(),
  /** Its ceiling follows the roof: there is no attic over it. */
  vaulted: z.boolean().optional(),
  /** Ways in: doors and openings by which one walks in. */
  ways: z.int().min(1).max(8).optional(),
  outline: z
    .array(z.strictObject({ id: CornerId, xIn: z.number(), yIn: z.number() }))
    .max(200)
    .optional(),
  /** What will lie on the subfloor, in inches: heights are measured over it. */
  floorBuildIn: Inches.optional(),
  /** What will cover the studs, in inches, of the wall that begins at a corner; without a corner, of every other wall. */
  finishes: z
    .array(z.strictObject({ corner: CornerId.optional(), boardIn: Inches, tileIn: Inches.optional() }))
    .max(200)
    .optional(),
});

export const Opening = z.strictObject({
  id: Id,
  roomId: Id,
  /** Where it stands: the corner at which its wall begins. */
  corner: CornerId.optional(),
  /** From that corner to its nearer side. */
  alongIn: Inches,
  widthIn: Inches,
  sillIn: Inches,
  headIn: Inches,
  kind: z.enum(['door', 'window', 'opening']).optional(),
  /** The side it is hung on: towards the corner where its wall begins (a) or ends (b). */
  hinge: z.enum(['a', 'b']).optional(),
  /** Whose permission there is to bore its header. */
  boring: Name.optional(),
});

const placed = z.strictObject({
  xIn: z.number().min(-100_000).max(100_000),
  yIn: z.number().min(-100_000).max(100_000),
});

/** A beam in the ceiling of a story, from end to end on its plan: no cable crosses it but where somebody permits it. */
export const Beam = z.strictObject({
  id: Id,
  storeyId: Id,
  a: placed,
  b: placed,
  /** Whose permission there is to bore it. */
  boring: Name.optional(),
});

/**
 * What is built into a room and decides where boxes go: on the wall that begins at a corner, or by itself on the floor with its
 * lower left corner at a place of the plan. Heights over the finished floor.
 */
export const Band = z.strictObject({
  id: Id,
  roomId: Id,
  kind: BandKind,
  corner: CornerId.optional(),
  /** From that corner to its nearer side. */
  alongIn: Inches.optional(),
  xIn: z.number().min(-100_000).max(100_000).optional(),
  yIn: z.number().min(-100_000).max(100_000).optional(),
  /** Along its wall, or to the right on the plan. */
  widthIn: Inches,
  /** Out from its wall, or up on the plan. */
  depthIn: Inches,
  fromIn: Inches,
  toIn: Inches,
});

export const Circuit = z.strictObject({
  id: Id,
  number: z.int().min(1).max(400),
  name: Name,
  panelId: Id,
  poles: z.union([z.literal(1), z.literal(2)]),
  spaces: z.array(z.int().min(1).max(400)).max(4).optional(),
  breakerAmps: z.int().min(1).max(400),
  protection: z.enum(['none', 'afci', 'gfci', 'dual']),
  /** Circuits with the same group share one neutral (multiwire). */
  neutralGroup: ShortText.optional(),
  /** Of a motor or air conditioner: minimum circuit ampacity and largest breaker as its nameplate says, in amperes. */
  nameplate: z.strictObject({ mca: z.number().min(1).max(400), mocp: z.number().min(1).max(400) }).optional(),
  /** The breaker is marked for two wires (312.8, 110.14(A)). */
  twoWires: z.boolean().optional(),
  /** A ring: both its ends come home to its breaker. */
  ring: z.boolean().optional(),
  /** Its breaker is a guess until somebody has read the nameplate; wide cable is not pulled before. */
  nameplateOpen: z.boolean().optional(),
  drafted: Drafted.optional(),
});

export const ConductorEnd = z.strictObject({
  runId: Id,
  /** Colour code of the conductor; the n-th of one colour in a raceway is "BK#n". */
  conductor: ShortText,
  /** A white that is not neutral has been marked all round here. */
  marked: z.boolean().optional(),
});

export const Joint = z.strictObject({
  kind: z.enum(['splice', 'land', 'cap', 'uncut']),
  /** Conductors of cables; none where a wire only links terminals. */
  ends: z.array(ConductorEnd).max(40),
  /** Where it lands: one for 'land', one for each pigtail of a 'splice'. */
  terminals: z.array(Landing).max(40).optional(),
  connector: ShortText.optional(),
  /** Length of an unbroken loop left in the box, for 'uncut'. */
  loopIn: Inches.optional(),
});

/** What is marked in a box that is in no catalogue: all of it, or nothing where the box names a model. */
const MARKED = [
  'markedVolumeIn3',
  'material',
  'kind',
  'gangs',
  'slots',
  'markedClamps',
  'groundScrew',
] as const;

/** A light or lead that comes out of the wall without a box: where a cable ends before anything is mounted. */
export const BURIED_POINT = 'buried-point';

export const Box = z
  .strictObject({
    id: Id,
    /** Left out only for a buried point, which then belongs to where its cable comes from. */
    roomId: Id.optional(),
    tag: ShortText,
    catalogueId: ShortText.optional(),
    markedVolumeIn3: CubicInches.optional(),
    material: BoxMaterial.optional(),
    kind: BoxKind.optional(),
    gangs: z.int().min(0).max(LIMITS.gangs).optional(),
    slots: z.int().min(0).max(60).optional(),
    /** Clamps that are part of a marked box; `clamps` says what is used in it instead. */
    markedClamps: Clamps.optional(),
    groundScrew: z.boolean().optional(),
    fanRated: z.boolean().optional(),
    /** The corner at which its wall begins, in its room's outline; `alongIn` counts from there to its middle. */
    corner: CornerId.optional(),
    alongIn: Inches.optional(),
    /** It faces away from its room: an outside receptacle. */
    facesOut: z.boolean().optional(),
    /** How far its front edge stands out from the studs, in inches. */
    setOutIn: Inches.optional(),
    /** On a ceiling or floor: its place on the plan of the story. */
    xIn: z.number().min(-100_000).max(100_000).optional(),
    yIn: z.number().min(-100_000).max(100_000).optional(),
    heightIn: Inches.optional(),
    heightReference: HeightReference.optional(),
    placeNote: Name.optional(),
    fittings: z.array(Fitting).max(20).optional(),
    clamps: Clamps.optional(),
    fixtureWires: z
      .strictObject({ count: z.int().min(1).max(40), size: Size, fromCanopy: z.boolean() })
      .optional(),
    /** Isolated equipment grounds that enter besides the grounds of the cables. */
    isolatedGround: z.strictObject({ count: z.int().min(1).max(40), size: Size }).optional(),
    neutralException: NeutralException.optional(),
    /** Why it is excused, in words: for the exception "other". */
    neutralReason: Name.optional(),
    asBuilt: z.array(Joint).max(200).optional(),
    drafted: Drafted.optional(),
  })
  .refine((box) => box.catalogueId === undefined || MARKED.every((field) => box[field] === undefined), {
    path: ['catalogueId'],
    message: 'a box is of a model or is marked, not both',
  })
  .refine((box) => box.catalogueId !== undefined || MARKED.every((field) => box[field] !== undefined), {
    path: ['catalogueId'],
    message: `a box names its model, or all of what is marked in it (${MARKED.join(', ')})`,
  })
  .refine((box) => box.roomId !== undefined || box.catalogueId === BURIED_POINT, {
    path: ['roomId'],
    message: 'a box stands in a room',
  });

/** The fields of a box that say of which model it is, or what is marked in it. */
export type BoxModel = Pick<z.infer<typeof Box>, 'catalogueId' | 'fanRated' | (typeof MARKED)[number]>;
export const MODEL_FIELDS = [
  'catalogueId',
  ...MARKED,
  'fanRated',
] as const satisfies readonly (keyof BoxModel)[];

/** Fields to write so that a box is of this model, or marked so; null for those that go. */
export const modelFields = (model: BoxModel): { [K in keyof BoxModel]?: BoxModel[K] | null } =>
  Object.fromEntries(MODEL_FIELDS.map((field) => [field, model[field] ?? null]));

export const Device = z.strictObject({
  id: Id,
  boxId: Id,
  /** First gang it takes, counted from 1, left to right seen from the room. */
  gang: z.int().min(1).max(LIMITS.gangs),
  widthGangs: z.int().min(1).max(LIMITS.gangs).optional(),
  catalogueId: ShortText,
  drafted: Drafted.optional(),
});

export const Point = z.strictObject({
  id: Id,
  deviceId: Id,
  role: PointRole,
  name: ShortText.optional(),
  circuitId: Id.optional(),
  watts: z.number().min(0).max(100_000).optional(),
  drafted: Drafted.optional(),
});

export const Control = z.strictObject({
  id: Id,
  name: Name,
  places: z.array(Id).max(40),
  loads: z.array(Id).max(200),
  pinnedOrder: z.array(Id).max(40).optional(),
  /** The whole lighted area is seen from every place; when nothing is said, if all of it is in one room. */
  wholeAreaSeen: z.boolean().optional(),
  drafted: Drafted.optional(),
});

export const RunWire = z.strictObject({
  size: Size,
  colour: Colour,
  circuitId: Id.optional(),
});

const inBox = z.strictObject({ boxId: Id, slot: z.int().min(1).max(60).optional() });
export const RunPurpose = z.enum(['power', 'leg', 'travelers', 'interconnect']);

export const Run = z
  .strictObject({
    id: Id,
    kind: z.enum(['cable', 'raceway', 'low-voltage']),
    circuitIds: z.array(Id).max(12),
    from: inBox,
    to: inBox,
    plannedCable: CableId.optional(),
    wires: z.array(RunWire).max(60).optional(),
    /** Trade size of a raceway, in inches. */
    tradeSize: z.enum(['1/2', '3/4', '1']).optional(),
    purpose: RunPurpose.optional(),
    label: ShortText.optional(),
    /**
     * Points through which its way is forced, on the way from its first box to the other: on the plan of a story (of the first box,
     * where none is named), so high over its floor; as high as the ceiling or higher is in it.
     */
    route: z
      .array(z.strictObject({ storeyId: Id.optional(), xIn: z.number(), yIn: z.number(), zIn: z.number() }))
      .max(500)
      .optional(),
    /** Walls that its way stays out of: each by a room and the corner at which it begins. */
    shutOut: z.array(WallOfRoomId).max(40).optional(),
    measuredLengthIn: Inches.optional(),
    /** A lead wants it just so: what plans the house leaves it. */
    kept: z.boolean().optional(),
    drafted: Drafted.optional(),
  })
  .refine((run) => run.to.boxId !== run.from.boxId, {
    path: ['to', 'boxId'],
    message: 'a run goes from one box to another, not back to the same box',
  });

export const Pull = z.strictObject({
  id: Id,
  runId: Id,
  /** The cable that was pulled; left out for the wires of a raceway, which stand in its run. */
  cable: CableId.optional(),
  reelId: Id.optional(),
  startMark: FootMark.optional(),
  endMark: FootMark.optional(),
  lengthIn: Inches.optional(),
  at: z.iso.datetime({ offset: true }),
  /** The person who did it; names stand in the crew's list. */
  by: Id,
  state: z.enum(['part', 'in', 'scrapped']),
  /** The length that was planned when it was logged. */
  plannedIn: Inches.optional(),
  /** Where its length comes from, if nobody measured it: as planned, or its share of the cable between two foot marks. */
  lengthFrom: z.enum(['planned', 'shared']).optional(),
  /** Pulls among which the cable between two foot marks was shared out. */
  segmentId: Id.optional(),
  note: Note.optional(),
});

/** Reels, coils and offcuts belong to the crew; a house file carries a snapshot of those it used. */
export const Reel = z.strictObject({
  id: Id,
  name: Name,
  kind: z.enum(['reel', 'coil', 'offcut']),
  cable: CableId,
  lengthIn: Inches,
  /** Where it lies: which truck, or the shop. */
  place: ShortText.optional(),
  parentId: Id.optional(),
});

/** A person of the crew, as a house file carries those whose work it holds. */
export const Person = z.strictObject({ id: Id, name: Name });
export type Person = z.infer<typeof Person>;

/** Codes of steps: words joined by hyphens, never a sentence. */
export const StepCode = z
  .string()
  .max(60)
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'is not the code of a step');

/** Cables that enter a box, before anything is made up: those that carry power on, and all others. What was not counted is left out. */
export const CableCount = z.strictObject({
  power: z.int().min(0).max(LIMITS.cables),
  leg: z.int().min(0).max(LIMITS.cables).optional(),
});

/**
 * What somebody counted who looked into a box on a walk, and what stood in plan and log at that moment: of all cables, or of
 * those of the circuit that the record names.
 */
export const BoxCount = z.strictObject({
  seen: CableCount,
  expected: CableCount,
  /** Runs that were planned to be found. */
  runIds: z.array(Id).max(LIMITS.cables),
  /** Pulls of these that were logged. */
  pullIds: z.array(Id).max(LIMITS.cables),
});
export type BoxCount = z.infer<typeof BoxCount>;

/** A short print of something, by which it is known again. */
const Print = z.string().regex(/^[0-9a-f]{16}$/, 'is not a print');

/**
 * What was tested: the step of a routine, by its print; and how the boxes that it depends on were made up then, a print each, by
 * which what was changed since is told.
 */
export const Tested = z.strictObject({
  routine: z.enum(['ring-out', 'live', 'trim']),
  /** With the board up. */
  boarded: z.boolean().optional(),
  step: Print,
  boxes: z.record(Id, Print).refine((boxes) => Object.keys(boxes).length <= LIMITS.records),
  /** What the meter showed: ohms of continuity, megohms of insulation. */
  reading: z.number().min(0).max(1_000_000).optional(),
  /** Of a live test: boxes in which joins that were made for it were left in. */
  leftIn: z.array(Id).max(LIMITS.records).optional(),
});
export type Tested = z.infer<typeof Tested>;

/** What is left as it was found: by its print, so that it is asked again when anything of it changes. */
export const Accepted = z.strictObject({
  finding: Print,
  /** Of what may not be accepted: the inspector who allowed it, and on which day. */
  inspector: z.strictObject({ name: Name, on: z.iso.date() }).optional(),
});
export type Accepted = z.infer<typeof Accepted>;

/** What was walked, tested, seen, found or ticked, when and by whom. */
export const WorkRecord = z.strictObject({
  id: Id,
  /** `seen`: one thing seen of a circuit that has a fault; `found`: the fault; `dead`: its circuit was proven dead, by the power state in `step`; `accepted`: something found stays as it is, `note` says why; `cut`: another trade cut or moved a run, as `step` says. */
  kind: z.enum(['walk', 'test', 'tick', 'seen', 'found', 'dead', 'accepted', 'cut']),
  at: z.iso.datetime({ offset: true }),
  /** The person who did it; names stand in the crew's list. */
  by: Id,
  circuitId: Id.optional(),
  boxId: Id.optional(),
  runId: Id.optional(),
  roomId: Id.optional(),
  /** The wall of that room: the corner at which it begins. */
  corner: CornerId.optional(),
  /** Code of the step that was done. */
  step: StepCode.optional(),
  /** Of drilling and sealing: how many holes there were. */
  holes: z.int().min(0).max(10_000).optional(),
  result: z.enum(['pass', 'fail']).optional(),
  /** Of a walk: what was counted in the box. */
  counted: BoxCount.optional(),
  tested: Tested.optional(),
  report: Report.optional(),
  cause: FoundCause.optional(),
  accepted: Accepted.optional(),
  note: Note.optional(),
});
export type WorkRecord = z.infer<typeof WorkRecord>;

/** What other trades are asked for, or what has to be in before theirs begins. */
export const Ask = z.strictObject({
  id: Id,
  kind: z.enum(['blocking', 'pour', 'siding']),
  roomId: Id.optional(),
  boxId: Id.optional(),
  note: Note.optional(),
  /** The day on which it has to be in. */
  dueOn: z.iso.date().optional(),
  doneAt: z.iso.datetime({ offset: true }).optional(),
  doneBy: Id.optional(),
  drafted: Drafted.optional(),
});

/** What has been drafted of a room, or, without one, of the house: what is missing of it was taken away by somebody. */
export const DraftKeys = z.strictObject({
  id: Id,
  roomId: Id.optional(),
  keys: z.array(z.string().min(1).max(200)).max(LIMITS.entries),
});

export const HouseHead = z.strictObject({
  id: Id,
  name: Name,
  rulebook: HouseRulebook,
  power: PowerState.optional(),
});
export type HouseHead = z.infer<typeof HouseHead>;

/** Every list of the house file: its record schema and the crew's word for one record of it. */
export const TABLES = {
  storeys: { noun: 'storey', schema: Storey },
  rooms: { noun: 'room', schema: Room },
  openings: { noun: 'opening', schema: Opening },
  bands: { noun: 'band', schema: Band },
  beams: { noun: 'beam', schema: Beam },
  catalogueBoxes: { noun: 'catalogueBox', schema: CatalogueBox },
  catalogueDevices: { noun: 'catalogueDevice', schema: CatalogueDevice },
  boxes: { noun: 'box', schema: Box },
  circuits: { noun: 'circuit', schema: Circuit },
  devices: { noun: 'device', schema: Device },
  points: { noun: 'point', schema: Point },
  controls: { noun: 'control', schema: Control },
  runs: { noun: 'run', schema: Run },
  reels: { noun: 'reel', schema: Reel },
  pulls: { noun: 'pull', adding: 'log', schema: Pull },
  records: { noun: 'record', schema: WorkRecord },
  asks: { noun: 'ask', schema: Ask },
  photos: { noun: 'photo', schema: Photo },
  writeUps: { noun: 'writeUp', schema: WriteUp },
  extras: { noun: 'extra', schema: Extra },
  drafts: { noun: 'draft', schema: DraftKeys },
} as const;

export type TableName = keyof typeof TABLES;
export const TABLE_NAMES = Object.keys(TABLES) as TableName[];
export type RecordOf<T extends TableName> = z.infer<(typeof TABLES)[T]['schema']>;

export type Storey = RecordOf<'storeys'>;
export type Room = RecordOf<'rooms'>;
export type Opening = RecordOf<'openings'>;
export type Band = RecordOf<'bands'>;
export type Beam = RecordOf<'beams'>;
export type Circuit = RecordOf<'circuits'>;
export type Box = RecordOf<'boxes'>;
export type Joint = z.infer<typeof Joint>;
export type Device = RecordOf<'devices'>;
export type Point = RecordOf<'points'>;
export type Control = RecordOf<'controls'>;
export type Run = RecordOf<'runs'>;
export type Reel = RecordOf<'reels'>;
export type Pull = RecordOf<'pulls'>;
export type Ask = RecordOf<'asks'>;
export type DraftKeys = RecordOf<'drafts'>;
