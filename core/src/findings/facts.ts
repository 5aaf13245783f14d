import type { Bundle } from '../vocabulary/catalogue-types.js';
import type { RuleValueType } from '../vocabulary/rule.js';
import type { SectionKey } from '../vocabulary/jurisdiction.js';
import type { BandKind, NeutralException, PointRole } from '../vocabulary/kinds.js';
import type { CableId } from '../rulebook/cables.js';
import type { CarriedFacts, SignalFacts } from '../vocabulary/signal.js';
import type { Landing } from '../vocabulary/terminal.js';
import type { Gauge } from '../vocabulary/size.js';
import type { Colour } from '../vocabulary/text.js';
import type { Settling, WalkTold } from './walk-facts.js';

/** A conductor of a run. */
export interface ConductorRef {
  readonly runId: string;
  readonly key: string;
}

/** What lies together in a joint, and what it carries where that is known. */
export interface JointFacts {
  readonly ends: readonly ConductorRef[];
  readonly landings: readonly Landing[];
  readonly signal?: SignalFacts | undefined;
}

/** What a joint is, as a hand asks for it: "Hot of circuit 5 to LINE", "Leg: Hall", "Cap spare RD of the cable to S1". */
export type JointTitle =
  | {
      readonly code:
        'grounds-to-bar' | 'grounds' | 'spares-spliced' | 'link-unasked' | 'interconnect' | 'hot-cap';
      readonly circuitIds: readonly string[];
      readonly isPart: boolean;
    }
  | {
      readonly code: 'neutrals' | 'neutral-cap' | 'neutral-uncut' | 'hot';
      /** Several where they share a neutral. */
      readonly circuitIds: readonly string[];
      /** The side of a GFCI receptacle that it goes to or comes from. */
      readonly of?: 'line' | 'load';
      readonly isPart: boolean;
    }
  | { readonly code: 'leg'; readonly controlId?: string | undefined; readonly isPart: boolean }
  | { readonly code: 'commons'; readonly controlId?: string | undefined }
  | {
      readonly code: 'traveler';
      readonly controlId?: string | undefined;
      readonly side: 'a' | 'b';
      readonly isThrough: boolean;
    }
  /** One conductor of the cable of a run. */
  | {
      readonly code: 'spare-cap' | 'not-derived';
      readonly boxId: string;
      readonly runId: string;
      readonly colour: Colour;
    };

/** Conductors whose colour says something else than what they carry, and the colours of which one goes round them. */
export interface Marking {
  readonly colours: readonly Colour[];
  readonly with: readonly Colour[];
}

/** Something that draws current: a load, or the inside of a switch that needs a neutral. */
export interface LoadFacts {
  readonly pointId: string;
  readonly boxId: string;
  readonly role: Exclude<PointRole, 'lever'> | 'electronics';
}

/** Where a receptacle is asked for whatever the spacing. */
export type OutletPlace =
  | 'basin'
  | 'bath'
  | 'hall'
  | 'foyer'
  | 'foyer-wall'
  | 'garage'
  | 'laundry'
  | 'basement'
  | 'porch'
  | 'outside'
  | 'service';

type None = Readonly<Record<never, never>>;

/** What meets where a breaker trips. */
export type ShortFacts =
  | { readonly kind: 'hot-to-ground' }
  /** `source` is the terminal of the panel that is met; left out where it is a switch that joins the two. */
  | { readonly kind: 'voltages'; readonly source?: Landing | undefined; readonly other: 'neutral' | 'leg' };

/**
 * What there is to know of each kind of finding besides where it is: ids, numbers and codes, never words. The sentence that
 * is made of them stands in `words/`.
 */
export interface FindingFacts {
  /** It does not show after the board is up. */
  'box.buried': None;
  /** Its front edge is behind the finish by more than is allowed, or out in front of it. */
  'box.face': { readonly finishIn: number; readonly isBehind: boolean };
  'box.fan-could-hang': { readonly boxIds: readonly string[] };
  'box.low-voltage': { readonly runIds: readonly string[] };
  /** Cables that come together where there is no box. */
  'box.splice-without': { readonly count: number };
  /** Of a light's own splice box, which counts cables. */
  'box.too-many-cables': { readonly count: number; readonly limit: number };
  'box.not-for-fan': { readonly duty: 'fan' | 'spare switched conductors' };
  /** One joint made another way, or a whole box with so many of them. */
  'box.reopen':
    { readonly undo: JointFacts; readonly make: readonly JointFacts[] } | { readonly places: number };
  'breaker.above-nameplate': { readonly mocp: number };
  'breaker.two-runs': { readonly count: number };
  'circuit.too-many-outlets': { readonly count: number; readonly limit: number };
  'circuit.breaker-unknown': { readonly amps: number };
  'circuit.no-home-run': None;
  'circuit.number-twice': { readonly number: number; readonly circuitIds: readonly string[] };
  'control.240-volt': None;
  'control.no-load': None;
  'control.no-place': None;
  'control.not-a-switch': None;
  'control.order-not-proven': None;
  'control.pinned-wrong': None;
  'control.point-twice': None;
  'control.shared-point': None;
  'control.switch-as-load': None;
  'control.switch-without': None;
  'control.two-circuits': { readonly circuitIds: readonly string[] };
  'control.unreached': { readonly circuitId: string };
  'device.cannot-serve': { readonly kind: string; readonly serves: readonly string[] };
  'device.wrong-voltage': { readonly hots: 1 | 2 };
  'fill.too-full': { readonly overIn3: number };
  'fill.too-shallow': { readonly needsIn: number; readonly hasIn: number };
  'gang.none-such': { readonly has: number; readonly takes: number };
  'gang.taken-twice': { readonly gang: number };
  'gfci.crossed': {
    readonly why: 'control' | 'shared-neutral';
    /** The box of the device that does not protect what it could. */
    readonly deviceBoxId: string;
    /** Boxes in rooms that ask for protection. */
    readonly askedIn: readonly string[];
  };
  'layout.far-counter': { readonly wall: number };
  'layout.far-wall': { readonly wall: number };
  'layout.height': { readonly what: 'switch' | 'counter' | 'ceiling' };
  /** Where the middle of the box is: in a doorway or window, behind a door, within what is built in. */
  'layout.in-the-way': { readonly what: 'doorway' | 'window' | 'behind-door' | BandKind };
  'layout.island': {
    readonly kind: 'island' | 'peninsula';
    readonly has: number;
    readonly needs: number;
    /** There are enough, and none is near the end. */
    readonly atEnd?: true;
  };
  'layout.no-light': { readonly lacks: 'light' | 'switch' | 'switch-location' };
  'layout.no-outlet': { readonly what: OutletPlace; readonly has: number; readonly needs: number };
  'layout.own-circuit': {
    readonly what: 'bath' | 'laundry' | 'garage' | 'kitchen';
    readonly amps: number;
  };
  'layout.panel': { readonly why: 'room' | 'space' };
  'layout.protection': { readonly needs: 'afci' | 'gfci' | 'dual'; readonly roomIds: readonly string[] };
  'layout.same-bay': { readonly otherBoxId: string };
  'layout.switch-order': None;
  'layout.tub': { readonly what: 'switch' | 'receptacle' | 'fan' };
  'made.conductor-twice': { readonly conductor: string };
  'made.connector-misfit': {
    readonly connectorId: string;
    readonly bundle: Bundle;
    /** The one that takes it; left out where none of the table does. */
    readonly instead?: string | undefined;
  };
  'made.unknown-conductor': { readonly conductor: string };
  'made.unknown-terminal': { readonly conductor: string };
  'made.white-unmarked': Marking & { readonly is: string };
  'makeup.no-connector': { readonly title: JointTitle };
  'multiwire.same-leg': { readonly circuitIds: readonly string[] };
  'multiwire.too-many': { readonly circuitIds: readonly string[] };
  /** More electronic switches without a neutral than one circuit or one feeder may have. */
  'neutral.on-ground': { readonly count: number; readonly limit: number; readonly of: 'circuit' | 'feeder' };
  'neutral.missing-at-switch': { readonly runIds: readonly string[] };
  'panel.not-derived': None;
  'point.circuit-unsaid': { readonly circuitIds: readonly string[] };
  'proof.always-on-is-not': { readonly load: LoadFacts; readonly inPosition: boolean };
  'proof.circuits-joined':
    | { readonly what: 'neutrals' | 'hots'; readonly circuitIds: readonly [string, string] }
    | { readonly what: 'load'; readonly load: LoadFacts; readonly circuitIds: readonly [string, string] };
  'proof.does-not-follow':
    | {
        readonly how: 'stays';
        readonly load: LoadFacts;
        readonly switchBoxId: string;
        readonly isOn: boolean;
      }
    | { readonly how: 'changes'; readonly load: LoadFacts; readonly switchBoxId: string }
    | { readonly how: 'apart'; readonly load: LoadFacts };
  'proof.feeder': { readonly circuitId: string; readonly lacks: 'neutral' | 'hots' };
  'proof.interconnect': { readonly touches: boolean };
  'proof.load-on-line': { readonly isBackwards: boolean };
  'proof.neutral-broken': { readonly load: LoadFacts };
  'proof.neutral-grounded': None;
  'proof.neutral-on-bar': {
    readonly circuitId: string;
    /** Its breaker watches the neutral; else the breaker that it lands on. */
    readonly watched?: string | undefined;
    readonly landsOn?: string | undefined;
  };
  'proof.no-ground': None;
  'proof.off-position': None;
  'proof.other-breaker': { readonly load: LoadFacts; readonly own: string; readonly other: string };
  /** One of the cores of a ring does not come home by both its ends. */
  'proof.ring-open': { readonly core: 'hot' | 'neutral' | 'ground' };
  'proof.series': {
    readonly load: LoadFacts;
    readonly state: 'dim' | 'over';
    readonly volts: number;
    readonly rated: number;
  };
  'proof.short': { readonly short: ShortFacts };
  'proof.spare-joined': None;
  'proof.switched-neutral': { readonly load: LoadFacts };
  'proof.unbalanced': {
    readonly amps: number;
    /** So many more cables show the same. */
    readonly more?: number;
  };
  'proof.white-unmarked': Marking;
  'raceway.cannot-count': { readonly gauges: readonly Gauge[] };
  'raceway.no-size': None;
  'raceway.too-full': {
    readonly wires: number;
    readonly tradeSize: '1/2' | '3/4' | '1';
    readonly percent: number;
  };
  'rule.loosened': { readonly key: string; readonly reason: string };
  'rule.loosened-without-reason': { readonly key: string };
  'run.circuits-apart': { readonly circuitIds: readonly string[] };
  'run.loose-end': None;
  /** Another trade cut it, or moved it. */
  'run.struck': { readonly isCut: boolean; readonly note?: string };
  'run.no-cable': { readonly needed?: CableId | undefined };
  'run.no-circuit': None;
  'run.no-one-cable': { readonly count: number };
  'slot.none-such': { readonly slot: number; readonly slots: number };
  'slot.too-many': { readonly slot: number; readonly count: number; readonly limit: number };
  /** A walk found what is otherwise than planned. */
  'walk.found': { readonly told: WalkTold };
  /** It is one of these; `lessLikely` more would look the same. */
  'walk.either': {
    readonly ways: readonly (readonly WalkTold[])[];
    readonly lessLikely: number;
    readonly settling?: Settling | undefined;
  };
  /** More differs than a few mistakes explain. */
  'walk.unclear': { readonly boxIds: readonly string[] };
  'walk.leg-early': { readonly legIds: readonly string[]; readonly powerIds: readonly string[] };
  /** A hole that its member may not lose: too large, or too near to an edge. */
  'way.bored': { readonly through: 'stud' | 'plate' | 'joist'; readonly isLarge: boolean };
  /** So many cables lie in one hole in insulation that they carry less. */
  'way.derated': {
    readonly cables: number;
    readonly conductors: number;
    readonly percent: number;
    readonly amps: number;
  };
  /** Cable in a wall, less deep than asked, and outside of every safe zone for so long. */
  'zone.outside': { readonly lengthIn: number };
  /** Such a cable, or any in a wall with metal in it, on a circuit without an RCD. */
  'zone.no-rcd': { readonly anyDepth: boolean };
  'way.none': { readonly why: 'no-wall' | 'no-space' | 'apart' };
  'way.shut': None;
  'way.unreached': { readonly points: number };
  'wire.too-thin': {
    readonly thinnest: Gauge;
    readonly least: Gauge;
    readonly isIn: boolean;
    readonly amps: number;
    /** By nameplate, in amperes. */
    readonly mca?: number | undefined;
  };
  'wiring.cut-off': { readonly boxIds: readonly string[] };
  /** A ring of which only one end comes home. */
  'ring.leg-missing': None;
  /** A cable that joins two places of a ring, or of a spur. */
  'ring.bridged': None;
  /** More on a spur than may be: a spur of its own, or too many accessories. */
  'ring.spur': { readonly onward: boolean; readonly has: number; readonly takes: number };
  'wiring.loop': None;
  'wiring.too-few-conductors': {
    readonly wanted: readonly CarriedFacts[];
    readonly missing: readonly CarriedFacts[];
    readonly has:
      | { readonly cable: CableId; readonly isIn: boolean }
      | { readonly wires: number; readonly usable: number };
    readonly needed?: CableId | undefined;
  };
  'wiring.unreached': { readonly catalogueId: string };
  'yoke.two-circuits': { readonly gang: number; readonly circuitIds: readonly string[] };
}

export type FindingCode = keyof FindingFacts;
export type ProofCode = Extract<FindingCode, `proof.${string}`>;

/** What a way out does, for the words on its button. */
export interface FixFacts {
  'change-box': { readonly boxId: string; readonly catalogueId: string };
  'derive-order': { readonly controlId: string };
  'draw-wires': { readonly wires: readonly { readonly gauge: Gauge; readonly colour: Colour }[] };
  'edition-value': None;
  excuse: { readonly boxId: string; readonly reason: NeutralException };
  'feed-other-end': { readonly boxId: string; readonly insteadOf: string };
  'gfci-receptacle': { readonly boxId: string };
  'leave-group': { readonly circuitId: string };
  'made-again': { readonly all: boolean };
  'make-ring': { readonly circuitId: string };
  'marked-for-two': None;
  'no-ring': { readonly circuitId: string };
  /** A cable from this box home to the panel. */
  'ring-home': { readonly boxId: string };
  'marked-now': None;
  /** To this place on its wall. */
  'let-go-points': None;
  'let-in-walls': None;
  /** Another way for a run, round the walls where it may not lie: so much longer, in. */
  'way-around': { readonly runId: string; readonly moreIn: number };
  'move-box': { readonly boxId: string; readonly byIn: number };
  'move-panel': { readonly boxId: string; readonly roomId: string };
  'name-once': None;
  /** A box of their own for the low-voltage cables of a box. */
  'own-box': { readonly boxId: string; readonly cables: number };
  'plain-switch': { readonly boxId: string };
  /** Of this run, or of the one that is named. */
  'plan-cable': { readonly cable: CableId; readonly runId?: string | undefined };
  protect: { readonly circuitId: string; readonly protection: 'afci' | 'gfci' | 'dual' };
  'put-on-circuit': { readonly circuitId: string };
  'reorder-switches': { readonly boxId: string };
  /** Its front edge stands out so far from the studs. */
  'set-out': { readonly boxId: string; readonly outIn: number };
  /** So many cables share a hole of the house at most. */
  'fewer-in-hole': { readonly cables: number };
  'set-height': { readonly boxId: string; readonly heightIn: number };
  'set-light': { readonly roomId: string };
  'own-circuit': { readonly roomId: string; readonly circuits: number };
  'set-receptacle': { readonly roomId: string };
  'set-switch': { readonly roomId: string };
  'side-by-side': { readonly first: CableId; readonly second: CableId };
}
export type FixCode = keyof FixFacts;

/** Something that was counted or measured, in its own unit. */
export type Measure =
  | { readonly kind: 'volume'; readonly in3: number }
  | { readonly kind: 'area'; readonly in2: number }
  | { readonly kind: 'amps'; readonly amps: number }
  | { readonly kind: 'length'; readonly inches: number }
  | { readonly kind: 'gauge'; readonly gauge: Gauge }
  | { readonly kind: 'cable'; readonly id: CableId }
  | { readonly kind: 'number'; readonly number: number }
  | { readonly kind: 'cables' | 'slots' | 'slot'; readonly number: number }
  /** The model of a box, by itself or as what is asked of it. */
  | { readonly kind: 'box'; readonly boxId: string }
  | { readonly kind: 'fan-rated-box' }
  | { readonly kind: 'rule'; readonly key: string; readonly value: RuleValueType };

/** Where a finding gets its rule from. */
export type Source =
  | { readonly rule: string }
  /** `inEdition` where it differs from edition to edition. */
  | { readonly section: SectionKey; readonly inEdition?: true }
  /** Common practice, and what decides where it differs. */
  | { readonly practice: 'common' | 'package' | 'sheet' };
