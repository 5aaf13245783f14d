/**
 * A second opinion on a drafted house. It reads the JSON of a house file and shares no code with the core: what it knows of the
 * trade stands here, from memory, with its section.
 */

type Row = Readonly<Record<string, unknown>> & { readonly id: string };
type House = Readonly<Record<string, unknown>>;

/** Free volume of boxes in cubic inches as their models say, and what a conductor takes (314.16(B)). */
const volumeOf = (model: string): number | undefined => {
  if (model === 'metal-square-4.6875x2.125') return 42;
  const marked = /^(?:plastic-(?:\dg|round)|fan)-([\d.]+)$/.exec(model);
  return marked ? Number(marked[1]) : undefined;
};
const CONDUCTOR: Readonly<Record<string, number>> = { '14': 2, '12': 2.25, '10': 2.5, '8': 3, '6': 5 };
/** 240.4(D), and 334.80 at 60 °C. */
const BREAKER: Readonly<Record<string, number>> = { '14': 15, '12': 20, '10': 30, '8': 40, '6': 55 };
const gaugeOf = (cable: string): string => cable.split('/')[0]!;
const conductorsOf = (cable: string): number => Number(cable.split('/')[1]);

const WIDE: ReadonlySet<string> = new Set(['receptacle-240-neutral']);
const ON_YOKE = /^(switch|dimmer|timer|smart-switch|receptacle)/;
/** 210.8(A) by room; kitchens at the counter, from 2023 on whole. */
const GROUND_FAULT = ['bath', 'water-closet', 'garage', 'porch', 'outdoors', 'laundry', 'basement'];
/** 210.12(A). */
const ARC_FAULT = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'hall',
  'foyer',
  'stairs',
  'laundry',
  'closet',
  'office',
  'other',
];

/** What is wrong with a drafted house, in words for a person who reads a failing test. */
export function complaintsAbout(house: House): string[] {
  const list = (name: string): readonly Row[] => house[name] as readonly Row[];
  const base = String((house['rulebook'] as Row)['base']);
  const boxes = new Map(list('boxes').map((box) => [box.id, box]));
  const rooms = new Map(list('rooms').map((room) => [room.id, room]));
  const kindAt = (boxId: string): string => String(rooms.get(String(boxes.get(boxId)!['roomId']))!['kind']);
  const said: string[] = [];
  const devicesIn = (boxId: string): readonly Row[] =>
    list('devices').filter((device) => device['boxId'] === boxId);
  const end = (run: Row, which: 'from' | 'to'): string => String((run[which] as Row)['boxId']);
  const runsAt = (boxId: string): readonly Row[] =>
    list('runs').filter((run) => end(run, 'from') === boxId || end(run, 'to') === boxId);
  const power = list('runs').filter((run) => run['kind'] === 'cable');

  // Every box is reached from the panel by one circuit, as a tree.
  const reachedBy = new Map<string, string>();
  for (const circuit of list('circuits')) {
    const own = power.filter((run) => (run['circuitIds'] as string[]).includes(circuit.id));
    const seen = new Set([String(circuit['panelId'])]);
    const used = new Set<string>();
    for (let before = -1; before !== seen.size;) {
      before = seen.size;
      for (const run of own) {
        const [a, b] = [end(run, 'from'), end(run, 'to')];
        if (seen.has(a) === seen.has(b)) continue;
        used.add(run.id);
        for (const at of [a, b]) {
          if (!seen.has(at)) reachedBy.set(at, circuit.id);
          seen.add(at);
        }
      }
    }
    if (used.size !== own.length)
      said.push(`circuit ${String(circuit['name'])}: ${own.length - used.size} runs are no part of its tree`);
    if (own.length === 0) said.push(`circuit ${String(circuit['name'])} has no run`);
    if (
      own.filter((run) => [end(run, 'from'), end(run, 'to')].includes(String(circuit['panelId']))).length !==
      1
    )
      said.push(`circuit ${String(circuit['name'])} has not one home run`);
    for (const run of own) {
      const cable = String(run['plannedCable'] ?? '');
      if (!cable) said.push(`a run of ${String(circuit['name'])} has no cable`);
      else if (Number(circuit['breakerAmps']) > BREAKER[gaugeOf(cable)]!)
        said.push(`${cable} on ${String(circuit['breakerAmps'])} A`);
    }
  }
  for (const box of boxes.values()) {
    const model = String(box['catalogueId']);
    if (model === 'panel') continue;
    const isLow = model === 'low-voltage' || devicesIn(box.id).length === 0;
    if (!isLow && !reachedBy.has(box.id)) said.push(`${String(box['tag'])} gets no power`);
    if (runsAt(box.id).length === 0) said.push(`${String(box['tag'])} has no cable at all`);
  }

  // Fill.
  for (const box of boxes.values()) {
    const capacity = volumeOf(String(box['catalogueId']));
    if (capacity === undefined) continue;
    const cables = runsAt(box.id).flatMap((run) =>
      run['plannedCable'] ? [String(run['plannedCable'])] : [],
    );
    const each = (gauge: string): number => CONDUCTOR[gauge]!;
    const largest = Math.max(0, ...cables.map((cable) => each(gaugeOf(cable))));
    // Grounds of 8 and 6 AWG cable are 10 AWG.
    const ground = Math.max(0, ...cables.map((cable) => Math.min(2.5, each(gaugeOf(cable)))));
    const beyond = base === 'us-2017' ? 0 : Math.max(0, cables.length - 4) / 4;
    const yokes = devicesIn(box.id).reduce((sum, device) => {
      const kind = String(device['catalogueId']);
      return sum + (ON_YOKE.test(kind) ? (WIDE.has(kind) ? 4 : 2) : 0);
    }, 0);
    const used =
      cables.reduce((sum, cable) => sum + conductorsOf(cable) * each(gaugeOf(cable)), 0) +
      (cables.length ? ground * (1 + beyond) : 0) +
      yokes * largest;
    if (used > capacity + 1e-9) said.push(`${String(box['tag'])} holds ${used} in ${capacity} cu in`);
  }

  // Switching: every light and fan follows a control, from as many places as it says, each of its own box.
  const point = new Map(list('points').map((one) => [one.id, one]));
  const boxOfPoint = (id: string): string =>
    String(list('devices').find((device) => device.id === point.get(id)!['deviceId'])!['boxId']);
  const loads = list('controls').flatMap((control) => control['loads'] as string[]);
  for (const one of point.values()) {
    const times = loads.filter((id) => id === one.id).length;
    if ((one['role'] === 'lamp' || one['role'] === 'fan') && times !== 1)
      said.push(`a ${String(one['role'])} follows ${times} controls`);
  }
  for (const control of list('controls')) {
    const at = (control['places'] as string[]).map(boxOfPoint);
    if (new Set(at).size !== at.length) said.push(`${String(control['name'])}: two switches in one box`);
    const circuits = new Set(
      [...at, ...(control['loads'] as string[]).map(boxOfPoint)].map((id) => reachedBy.get(id)),
    );
    if (circuits.size !== 1) said.push(`${String(control['name'])} is on ${circuits.size} circuits`);
  }

  // No other outlets: 210.52(B)(2), 210.11(C).
  const onCircuit = (circuitId: string): Row[] =>
    [...boxes.values()].filter((box) => reachedBy.get(box.id) === circuitId);
  for (const circuit of list('circuits')) {
    const own = onCircuit(circuit.id);
    const has = (test: (kind: string) => boolean): boolean =>
      own.some((box) => devicesIn(box.id).some((device) => test(String(device['catalogueId']))));
    const rolesOf = (kind: string): boolean => /^(luminaire|fan)/.test(kind);
    const kinds = new Set(own.map((box) => kindAt(box.id)));
    const hasReceptacles = has((kind) => kind === 'receptacle');
    const lights = has(rolesOf);
    if (Number(circuit['breakerAmps']) === 20 && hasReceptacles && lights) {
      const isOneBath =
        kinds.size === 1 &&
        ['bath', 'water-closet'].includes([...kinds][0]!) &&
        new Set(own.map((box) => box['roomId'])).size === 1;
      if (!isOneBath) said.push(`${String(circuit['name'])}: lights on a 20 A receptacle circuit`);
    }
    const name = String(circuit['name']);
    for (const only of ['laundry', 'kitchen'])
      if (
        Number(circuit['breakerAmps']) === 20 &&
        Number(circuit['poles']) === 1 &&
        kinds.has(only) &&
        kinds.size > 1
      )
        said.push(`${name}: ${only} and other rooms on one 20 A circuit`);
    const isArc = ['afci', 'dual'].includes(String(circuit['protection']));
    const isGround = ['gfci', 'dual'].includes(String(circuit['protection']));
    if (Number(circuit['poles']) === 1 && own.some((box) => ARC_FAULT.includes(kindAt(box.id))) && !isArc)
      said.push(`${name}: no arc-fault protection`);
    const wet = base === 'us-2023' ? [...GROUND_FAULT, 'kitchen'] : GROUND_FAULT;
    const asked = own.some(
      (box) =>
        wet.includes(kindAt(box.id)) &&
        devicesIn(box.id).some((device) => /^receptacle/.test(String(device['catalogueId']))),
    );
    if (asked && !isGround && (Number(circuit['poles']) === 1 || base !== 'us-2017'))
      said.push(`${name}: no ground-fault protection`);
    if (!asked && isGround && !/kitchen counter|dishwasher|^refrigerator/i.test(name))
      said.push(`${name}: ground-fault protection that nobody asks for`);
  }

  // The panel: one breaker in a space, poles on both legs, legs alike to within the heaviest breaker.
  const spaces = list('circuits').flatMap((circuit) => circuit['spaces'] as number[]);
  if (new Set(spaces).size !== spaces.length) said.push('two breakers in one space');
  for (const circuit of list('circuits')) {
    const own = circuit['spaces'] as number[];
    if (own.length !== circuit['poles']) said.push(`${String(circuit['name'])} has ${own.length} spaces`);
    if (own.length === 2 && own[1] !== own[0]! + 2)
      said.push(`${String(circuit['name'])} does not stand on both legs`);
  }
  const tags = [...boxes.values()].map((box) => String(box['tag']));
  if (new Set(tags).size !== tags.length) said.push('a tag stands twice');
  const numbers = list('circuits').map((circuit) => circuit['number']);
  if (new Set(numbers).size !== numbers.length) said.push('a number stands twice');
  return said;
}
