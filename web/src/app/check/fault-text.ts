import type { FaultPlace, HouseReader, Report, Seen } from '@mule-tally/core';
import { boxName, roomName } from '@mule-tally/core';
import type { CauseKind, Phrases, Say, Suspicion } from '@mule-tally/core/work';

/** What a light or outlet is seen to do, said of it. */
export const SEEN_WORDS: Readonly<Record<Seen, string>> = {
  off: $localize`It is off`,
  on: $localize`It is on`,
  odd: $localize`Dim or too bright`,
  trips: $localize`It trips`,
};

/** Places, switches, lights, causes and reports of a house in words. */
export class FaultText {
  constructor(
    private readonly reader: HouseReader,
    private readonly say: Say,
    private readonly phrases: Phrases,
  ) {}

  private at(boxId: string): string {
    return [boxName(this.reader, boxId), roomName(this.reader, boxId)].filter(Boolean).join(', ');
  }

  /** "L1, Stairs"; with what it is where its box has several. */
  light(pointId: string): string {
    const point = this.reader.get('points', pointId);
    const device = this.reader.get('devices', point?.deviceId ?? '');
    if (!point || !device) return $localize`something that is gone`;
    const others = this.reader
      .mentioning('devices', device.boxId)
      .flatMap(({ id }) => this.reader.mentioning('points', id))
      .filter(({ role }) => role !== 'lever');
    const alike = others.filter(({ role }) => role === point.role);
    const role = point.role === 'lever' ? '' : this.phrases.roles[point.role];
    const numbered = alike.length > 1 ? `${role} ${alike.findIndex(({ id }) => id === pointId) + 1}` : role;
    const name = point.name ?? (others.length > 1 ? numbered : '');
    return [name, this.at(device.boxId)].filter(Boolean).join(' · ');
  }

  /** Lights and outlets by room: "Family room: R44, R45; Long hall: R56". Of a box of which not all are meant, which. */
  lights(pointIds: readonly string[]): string {
    const byRoom = new Map<string, Set<string>>();
    for (const pointId of pointIds) {
      const device = this.reader.get('devices', this.reader.get('points', pointId)?.deviceId ?? '');
      if (!device) continue;
      const all = this.reader
        .mentioning('devices', device.boxId)
        .flatMap(({ id }) => this.reader.mentioning('points', id))
        .filter(({ role }) => role !== 'lever');
      const isWhole = all.every(({ id }) => pointIds.includes(id));
      const [name] = isWhole ? [boxName(this.reader, device.boxId)] : this.light(pointId).split(',');
      const room = roomName(this.reader, device.boxId) ?? '';
      byRoom.set(room, (byRoom.get(room) ?? new Set()).add(name!));
    }
    return [...byRoom]
      .map(([room, names]) => (room ? `${room}: ${[...names].join(', ')}` : [...names].join(', ')))
      .join(' · ');
  }

  /** "S1, gang 2": a switch by its box, with its gang where there are several. */
  lever(pointId: string): string {
    const device = this.reader.get('devices', this.reader.get('points', pointId)?.deviceId ?? '');
    if (!device) return $localize`a switch that is gone`;
    const levers = this.reader
      .mentioning('devices', device.boxId)
      .flatMap(({ id }) => this.reader.mentioning('points', id))
      .filter(({ role }) => role === 'lever');
    const box = boxName(this.reader, device.boxId);
    if (levers.length < 2) return box;
    return $localize`${box} switch ${levers.findIndex(({ id }) => id === pointId) + 1}`;
  }

  /** "S1 up, S2 down": the levers that are named. */
  levers(thrown: readonly { readonly pointId: string; readonly up: boolean }[]): string {
    return this.phrases.and(
      thrown.map(({ pointId, up }) =>
        up ? $localize`${this.lever(pointId)} up` : $localize`${this.lever(pointId)} down`,
      ),
    );
  }

  place({ kind, id }: FaultPlace): string {
    switch (kind) {
      case 'breaker': {
        const circuit = this.reader.get('circuits', id);
        return circuit
          ? this.phrases.breaker(circuit.number, circuit.name, circuit.breakerAmps)
          : $localize`the ${this.say.term('breaker')}`;
      }
      case 'panel':
      case 'box':
        return this.at(id);
      case 'device': {
        const device = this.reader.get('devices', id);
        return device ? `${this.say.deviceType(device.catalogueId)} · ${this.at(device.boxId)}` : '';
      }
      case 'wall':
        return this.say.run(id);
    }
  }

  cause(kind: CauseKind): string {
    return this.say.language.causes(this.say.term)[kind];
  }

  /** What it is, at which conductor. */
  suspicion({ kind, place, conductor }: Suspicion): string {
    const own = this.cause(kind);
    if (!conductor) return own;
    const boxId = place.kind === 'box' || place.kind === 'panel' ? place.id : undefined;
    return $localize`${own}\: ${this.say.conductor(conductor, boxId)}`;
  }

  /** Two ends of wires, where a meter is held. */
  ends(ends: readonly { readonly boxId: string; readonly runId: string; readonly key: string }[]): string {
    return this.phrases.and(ends.map(({ boxId, ...ref }) => this.say.conductor(ref, boxId)));
  }

  report(report: Report): string {
    const up = 'up' in report ? this.levers(report.up.map((pointId) => ({ pointId, up: true }))) : '';
    const stand = up ? $localize`with ${up}` : $localize`with all switches down`;
    switch (report.kind) {
      case 'seen': {
        const words: Record<Seen, string> = {
          off: $localize`${this.light(report.pointId)} is off ${stand}`,
          on: $localize`${this.light(report.pointId)} is on ${stand}`,
          odd: $localize`${this.light(report.pointId)} is dim or too bright ${stand}`,
          trips: $localize`the ${this.say.term('breaker')} trips ${stand}`,
        };
        return words[report.seen];
      }
      case 'habit':
        return report.does === 'always'
          ? $localize`${this.light(report.pointId)} is always on`
          : report.does === 'never'
            ? $localize`${this.light(report.pointId)} is never on`
            : $localize`the ${this.say.term('breaker')} trips however the switches stand`;
      case 'with':
        return $localize`${this.light(report.pointId)} comes on with ${this.light(report.other)}`;
      case 'looked':
        return report.isThere
          ? $localize`${this.place(report.place)}\: there it is`
          : $localize`${this.place(report.place)}\: not there`;
      case 'parted':
        return report.trips
          ? $localize`the ${this.say.term('breaker')} trips with ${this.say.cableAt(report.runId, report.boxId)} taken loose in ${this.at(report.boxId)}`
          : $localize`the ${this.say.term('breaker')} holds with ${this.say.cableAt(report.runId, report.boxId)} taken loose in ${this.at(report.boxId)}`;
      case 'rang':
        return report.rings
          ? $localize`dead, ${this.ends(report.ends)} ring`
          : $localize`dead, ${this.ends(report.ends)} do not ring`;
      case 'volts':
        return report.reads === 'full'
          ? $localize`full voltage between ${this.ends(report.ends)} ${stand}`
          : report.reads === 'none'
            ? $localize`no voltage between ${this.ends(report.ends)} ${stand}`
            : $localize`something between full and none between ${this.ends(report.ends)} ${stand}`;
    }
  }
}
