import { setting } from '../changes/change.js';
import { SHOWING_STEP } from '../closing/after-board.js';
import { stillStruck } from '../closing/struck-run.js';
import type { HouseReader } from '../derive/reader.js';
import { boxFacts, devicesIn, runsAt } from '../facts/box-facts.js';
import { boxesThatHold } from '../fill/fill-box.js';
import type { Finding } from '../findings/finding.js';
import { NO_FACTS } from '../findings/finding.js';
import { BURIED_POINT } from '../house/model.js';
import { SET_STEP, finishOver } from '../plan/set-list.js';
import { changeBox } from './change-box.js';
import { bracketAddition } from './layout/additions.js';

/**
 * A box whose front edge is not where its wall will be (314.20): behind it by more than is allowed, or out in front of it. As long as
 * nobody has set the box or said how it stands, it is taken to stand out as boxes are marked, and it is a note.
 */
function faceFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const room = box.roomId ? reader.get('rooms', box.roomId) : undefined;
  const { kind } = boxFacts(reader, box);
  // A ring or an extension brings the front to where the wall is.
  const isBrought = box.fittings?.some((own) => ['ring', 'extension', 'raised-cover'].includes(own.kind));
  if (!room || isBrought || box.facesOut || kind === 'panel' || kind === 'buried-point') return [];
  const finishIn = finishOver(room, box.corner);
  if (finishIn === undefined) return [];
  const ticks = reader.mentioning('records', boxId);
  const isSet = ticks.some((own) => own.kind === 'tick' && own.step === SET_STEP);
  if (box.setOutIn === undefined && isSet) return [];
  const rules = reader.rules();
  const outIn = box.setOutIn ?? rules.number('face.setOut');
  const behindIn = finishIn - outIn;
  const allowedIn = rules.number('face.behind');
  const isBehind = behindIn > allowedIn + 1e-9;
  if (!isBehind && behindIn >= -allowedIn - 1e-9) return [];
  return [
    {
      code: 'box.face',
      severity: box.setOutIn === undefined ? 'note' : 'fix',
      where: { boxId, roomId: room.id },
      facts: { finishIn, isBehind },
      measured: { kind: 'length', inches: Math.abs(behindIn) },
      allowed: { kind: 'length', inches: allowedIn },
      source: isBehind ? { rule: 'face.behind' } : { practice: 'common' },
      fixes: [
        {
          code: 'set-out',
          facts: { boxId, outIn: finishIn },
          change: setting('boxes', boxId, { setOutIn: finishIn }),
        },
      ],
    },
  ];
}

/** What nobody gets to once the board is up: a box that does not show (314.29), a splice without a box (300.15). */
function reachFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const where = { boxId, roomId: box.roomId };
  if (box.catalogueId === BURIED_POINT) {
    const powered = runsAt(reader, boxId).filter(({ kind }) => kind !== 'low-voltage');
    // One device at the end of one cable takes the next in its own splice box; without one the joint lies in the wall.
    if (powered.length < 2 || devicesIn(reader, boxId).length > 0) return [];
    return [
      {
        code: 'box.splice-without',
        severity: 'stop',
        where,
        facts: { count: powered.length },
        measured: { kind: 'cables', number: powered.length },
        allowed: { kind: 'number', number: 1 },
        source: { section: 'spliceInBox' },
        fixes: boxesThatHold(reader, box, 'device')
          .slice(0, 2)
          .map((type) => changeBox(box, type)),
      },
    ];
  }
  const shows = reader
    .mentioning('records', boxId)
    .findLast(({ kind, step }) => kind === 'tick' && step === SHOWING_STEP);
  if (shows?.result !== 'fail') return [];
  return [{ code: 'box.buried', severity: 'stop', where, facts: NO_FACTS, source: { section: 'reachable' } }];
}

/** Low voltage and power in one box (725.136, 800.133). */
function lowVoltageFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  if (boxFacts(reader, box).kind === 'panel') return [];
  const runs = runsAt(reader, boxId);
  const low = runs.filter(({ kind }) => kind === 'low-voltage');
  if (low.length === 0 || low.length === runs.length) return [];
  const room = box.roomId ? reader.get('rooms', box.roomId) : undefined;
  return [
    {
      code: 'box.low-voltage',
      severity: 'fix',
      where: { boxId, roomId: box.roomId, runId: low[0]!.id },
      facts: { runIds: low.map(({ id }) => id) },
      source: { section: 'lowVoltage' },
      fixes: room
        ? [
            {
              code: 'own-box',
              facts: { boxId, cables: low.length },
              change: bracketAddition(reader, room, box, low),
            },
          ]
        : [],
    },
  ];
}

/** What is to be said of a box before its wall is closed, and after. */
export const closingFindings = (reader: HouseReader, boxId: string): readonly Finding[] => [
  ...faceFindings(reader, boxId),
  ...reachFindings(reader, boxId),
  ...lowVoltageFindings(reader, boxId),
];

/** A run that another trade has cut, and that has not been pulled again; or moved, and nobody has looked since. */
export function struckFindings(reader: HouseReader, runId: string): Finding[] {
  const struck = stillStruck(reader, runId);
  const run = reader.get('runs', runId);
  if (!struck || !run) return [];
  return [
    {
      code: 'run.struck',
      severity: 'fix',
      where: { runId, boxId: run.from.boxId, circuitId: run.circuitIds[0] },
      facts: { isCut: struck.isCut, ...(struck.record.note && { note: struck.record.note }) },
      source: { practice: 'common' },
    },
  ];
}
