import type { Carried, Colour, HouseReader } from '@mule-tally/core';
import type { CircuitWiring, Netlist, Say } from '@mule-tally/core/work';
import { carriedFacts } from '@mule-tally/core';
import { leverKind, wayUp } from '@mule-tally/core/work';

/** One circuit as boxes from the panel outward, with the conductors of every cable between them. */
export interface SwitchingDrawing {
  readonly width: number;
  readonly height: number;
  readonly boxes: readonly BoxShape[];
  readonly lines: readonly LineShape[];
}

export interface BoxShape {
  readonly node: string;
  readonly boxId: string;
  readonly tag: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly levers: readonly { readonly pointId: string; readonly name: string; readonly y: number }[];
  readonly loads: readonly { readonly pointId: string; readonly name: string; readonly y: number }[];
}

export interface LineShape {
  readonly id: string;
  readonly runId: string;
  readonly key: string;
  readonly colour: Colour;
  readonly path: string;
  readonly code: { readonly x: number; readonly y: number };
  /** Where the word stands that it is hot. */
  readonly hot: { readonly x: number; readonly y: number };
  readonly words: string;
}

const WIDTH = 168;
const GAP_X = 84;
const GAP_Y = 22;
const HEAD = 30;
const LINE = 46;
const STEP = 12;
const MARGIN = 12;

/** `only`: the nodes to show, with everything between them and the panel; all of them when left out. */
export function drawSwitching(
  reader: HouseReader,
  say: Say,
  wiring: CircuitWiring,
  netlist: Netlist,
  only: readonly string[] | undefined,
): SwitchingDrawing {
  const { tree } = wiring;
  const { roles } = say.tongue.phrases;
  const shown = only ? new Set(only.flatMap((node) => wayUp(tree, node))) : new Set(tree.nodes);
  const children = new Map<string, string[]>();
  for (const node of tree.nodes) {
    const from = tree.feed.get(node)?.from;
    if (from !== undefined && shown.has(node)) children.set(from, [...(children.get(from) ?? []), node]);
  }
  const levers = new Map(netlist.levers.map((lever) => [lever.pointId, lever]));
  const pointsAt = (node: string) => {
    const boxId = tree.boxOf.get(node)!;
    const here = (deviceId: string): boolean => (tree.moved.get(deviceId) ?? boxId) === node;
    return {
      levers: netlist.levers.filter((lever) => lever.boxId === boxId && here(lever.deviceId)),
      loads: netlist.loads.filter(
        ({ boxId: own, deviceId, role }) => own === boxId && here(deviceId) && role !== 'electronics',
      ),
    };
  };
  /** A letter for each lever of a yoke that has several. */
  const onYoke = (pointId: string, deviceId: string): string => {
    const all = reader.mentioning('points', deviceId).filter(({ role }) => role === 'lever');
    return all.length > 1 ? String.fromCharCode(97 + all.findIndex(({ id }) => id === pointId)) : '';
  };
  const carried = (runId: string): number => wiring.runs.get(runId)?.carries.size ?? 0;
  const bundleHeight = (child: string): number => carried(tree.feed.get(child)!.run.id) * STEP + 12;
  const boxes = new Map<string, BoxShape>();
  let nextY = MARGIN;
  let right = 0;
  const place = (node: string, depth: number): number => {
    const { levers: own, loads } = pointsAt(node);
    const leaving = (children.get(node) ?? []).reduce((sum, child) => sum + bundleHeight(child), 0);
    const height = Math.max(HEAD + (own.length + loads.length) * LINE + 8, leaving);
    const top = nextY;
    const middles = (children.get(node) ?? []).map((child) => place(child, depth + 1));
    const wanted = middles.length ? (middles[0]! + middles.at(-1)!) / 2 : top + height / 2;
    const middle = Math.max(wanted, top + height / 2);
    const y = middle - height / 2;
    nextY = Math.max(nextY, y + height + GAP_Y);
    const x = MARGIN + depth * (WIDTH + GAP_X);
    right = Math.max(right, x + WIDTH);
    boxes.set(node, {
      node,
      boxId: tree.boxOf.get(node)!,
      tag: reader.get('boxes', tree.boxOf.get(node)!)?.tag ?? '',
      x,
      y,
      width: WIDTH,
      height,
      levers: own.map(({ pointId, deviceId }, index) => {
        const placed = wiring.levers.get(pointId);
        const kind = placed ? leverKind(placed) : (levers.get(pointId)?.kind ?? 'single-pole');
        return {
          pointId,
          name: `${reader.get('devices', deviceId)?.gang ?? ''}${onYoke(pointId, deviceId)}: ${say.term(kind)}`,
          y: y + HEAD + index * LINE,
        };
      }),
      loads: loads.map(({ pointId, role }, index) => ({
        pointId,
        name: reader.get('points', pointId)?.name ?? (role === 'electronics' ? '' : roles[role]),
        y: y + HEAD + (own.length + index) * LINE,
      })),
    });
    return middle;
  };
  place(tree.panelId, 0);
  const lines: LineShape[] = [];
  for (const [child, { run, from }] of tree.feed) {
    const [start, end] = [boxes.get(from), boxes.get(child)];
    if (!start || !end) continue;
    const carries = [...(wiring.runs.get(run.id)?.carries ?? [])];
    const colours = new Map(
      netlist.joints.flatMap(({ joint }) =>
        joint.ends.filter((one) => one.runId === run.id).map((one) => [one.key, one.colour] as const),
      ),
    );
    const siblings = children.get(from)!;
    const before = siblings
      .slice(0, siblings.indexOf(child))
      .reduce((sum, one) => sum + bundleHeight(one), 0);
    const all = siblings.reduce((sum, one) => sum + bundleHeight(one), 0);
    const y1 = start.y + start.height / 2 - all / 2 + before + bundleHeight(child) / 2;
    const y2 = end.y + end.height / 2;
    const turn =
      start.x + WIDTH + GAP_X * (0.3 + (0.4 * (siblings.indexOf(child) + 1)) / (siblings.length + 1));
    carries.forEach(([key, carried], index) => {
      const off = (index - (carries.length - 1) / 2) * STEP;
      const bend = turn + (y2 > y1 ? -off : off);
      lines.push({
        id: `${run.id} ${key}`,
        runId: run.id,
        key,
        colour: colours.get(key) ?? 'BK',
        path: `M${start.x + WIDTH} ${y1 + off} L${bend} ${y1 + off} L${bend} ${y2 + off} L${end.x} ${y2 + off}`,
        code: { x: end.x - 16, y: y2 + off + 4 },
        hot: { x: start.x + WIDTH + 4, y: y1 + off + 4 },
        words: `${say.colour(key)}: ${say.signals([carriedFacts(carried as Carried)])}`,
      });
    });
  }
  return { width: right + MARGIN, height: nextY + MARGIN, boxes: [...boxes.values()], lines };
}
