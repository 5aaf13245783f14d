import { bundleText } from '../../rulebook/connectors.js';
import { gaugeText } from '../../vocabulary/size.js';
import type { BandKind } from '../../vocabulary/kinds.js';
import type { FindingWords, Say } from '../language/language.js';
import { markWith, markedWhite } from './marked-white.js';
import { SPANISH_WALK_WORDS } from './walk-words.js';

const KINDS: Readonly<Record<string, string>> = {
  'single-pole': 'sencillo',
  'three-way': 'de tres vías',
  'four-way': 'de cuatro vías',
};
const kindOf = (kind: string): string => KINDS[kind] ?? kind;
const and = (say: Say, words: readonly string[]): string => say.tongue.phrases.and(words);
const or = (say: Say, words: readonly string[]): string => say.tongue.phrases.or(words);

/** En qué está una caja. */
const THING: Readonly<Record<'doorway' | 'window' | BandKind, string>> = {
  doorway: 'el paso de una puerta',
  window: 'una ventana',
  cabinet: 'un gabinete',
  counter: 'una cubierta',
  island: 'una isla',
  peninsula: 'una península',
  vanity: 'un tocador',
  basin: 'un lavabo',
  mirror: 'un espejo',
  tub: 'una tina',
  shower: 'una regadera',
  trim: 'una moldura',
  fireplace: 'una chimenea',
};

/** Letters that three lines of a phone hold. */
const THREE_LINES = 115;

/** Qué hacer primero, y por qué. */
export const SPANISH_FINDINGS: FindingWords = {
  'box.buried': (say, { where }) => [
    `Busque ${say.box(where.boxId)} y abra ahí el tablero: lo que hay en una caja debe quedar al alcance.`,
    'Su foto y su medida de cinta están en Después del tablero.',
  ],
  'box.face': (say, { facts, where }) =>
    facts.isBehind
      ? `Ponga ${say.box(where.boxId)} a ${say.units.short(facts.finishIn)} hacia afuera de los montantes, o póngale un anillo: su frente quedaría muy atrás del acabado.`
      : `Meta ${say.box(where.boxId)} a ${say.units.short(facts.finishIn)} de los montantes: sale delante del acabado, y ninguna placa asienta.`,
  'box.low-voltage': (say, { facts, where }) =>
    `Dé caja propia ${facts.runIds.length === 1 ? 'al cable de baja tensión' : `a los ${facts.runIds.length} cables de baja tensión`} de ${say.box(where.boxId)}, o ponga una barrera: ahí hay corriente.`,
  'box.splice-without': (say, { facts, where }) =>
    `Ponga una caja en ${say.box(where.boxId)}: ahí se juntan ${facts.count} cables, y un empalme va en una caja.`,
  'box.fan-could-hang': (say, { facts }) => [
    `Pregunte al inspector por ${say.boxes(facts.boxIds)}: ahí podría colgarse un ventilador y la caja no es para eso.`,
    'Desde 2020 la caja de techo de un cuarto habitable donde podría colgarse un ventilador está hecha para uno, o da a una estructura que lo aguanta.',
  ],
  'box.not-for-fan': (say, { facts, where }) =>
    facts.duty === 'fan'
      ? `Ponga una caja para ventilador en ${say.box(where.boxId)}: cuelga uno de ella y no es para eso.`
      : `Ponga una caja para ventilador en ${say.box(where.boxId)}: le llegan conductores de reserva con interruptor propio y podría colgarse uno.`,
  'box.reopen': (say, { facts, where }) => {
    const tag = say.box(where.boxId);
    if ('places' in facts)
      return `Vuelva a abrir ${tag}: ${facts.places} uniones se hicieron de otra manera. Hágalas de nuevo.`;
    const joint = ({ ends, landings, signal }: (typeof facts)['undo']): string =>
      `${say.members(where.boxId, ends, landings)}${signal ? ` (${say.signals([signal])})` : ''}`;
    const make = `Haga en su lugar: ${facts.make.length ? facts.make.map(joint).join('; ') : 'nada, tápelo'}.`;
    const undo = `Vuelva a abrir ${tag} y deshaga ${joint(facts.undo)}.`;
    return undo.length + make.length > THREE_LINES ? [undo, make] : `${undo} ${make}`;
  },
  'breaker.above-nameplate': (say, { facts, where }) =>
    `Ponga un breaker de ${facts.mocp} A como máximo en ${say.circuit(where.circuitId)}: su placa no permite más.`,
  'breaker.two-runs': (say, { facts, where }) => [
    `Empalme en el panel los ${facts.count} cables de ${say.circuit(where.circuitId)}: su breaker toma un solo alambre si no está marcado para dos.`,
    `Lleve un alambre del empalme al breaker. Cada neutro va en su propio hoyo de la barra (${say.source({ section: 'oneNeutralPerHole' })}).`,
  ],
  'circuit.too-many-outlets': (say, { facts, where }) =>
    `Ponga ${facts.count - facts.limit} ${facts.count - facts.limit === 1 ? 'salida' : 'salidas'} de ${say.circuit(where.circuitId)} en otro circuito: tiene ${facts.count}, puede tener ${facts.limit}.`,
  'circuit.breaker-unknown': (say, { facts, where }) =>
    `Revise el breaker de ${say.circuit(where.circuitId)}: el reglamento no tiene alambre para ${facts.amps} A.`,
  'circuit.no-home-run': (say, { where }) =>
    `Jale la línea al panel de ${say.circuit(where.circuitId)}: ningún tramo suyo viene del panel.`,
  'circuit.number-twice': (say, { facts, where }) => [
    `Cambie los números: ${facts.circuitIds.length} circuitos de ${say.box(where.boxId)} tienen el ${facts.number}. Quien lo apague debe saber cuál es.`,
    `${and(
      say,
      facts.circuitIds.map((id) => say.circuit(id)),
    )}.`,
  ],
  'control.240-volt': (say, { where }) =>
    `Quite ${say.control(where.controlId)} de su circuito de ${say.volts(2)}: cortar los dos vivos no es cosa de una caja de interruptor.`,
  'control.no-load': (say, { where }) => `Diga qué prende ${say.control(where.controlId)}: todavía nada.`,
  'control.no-place': (say, { where }) =>
    `Diga desde dónde se prende ${say.control(where.controlId)}: todavía ningún lugar.`,
  'control.not-a-switch': (say, { where }) =>
    `Nombre solo interruptores como lugares de ${say.control(where.controlId)}.`,
  'control.order-not-proven': (say, { where }) =>
    `El orden de los interruptores de ${say.control(where.controlId)} es el mejor que se halló; no está probado que sea el mejor que hay.`,
  'control.pinned-wrong': (say, { where }) =>
    `Fije otra vez el orden de ${say.control(where.controlId)}, o deje que se calcule: lo fijado no son exactamente sus interruptores.`,
  'control.point-twice': (say, { where }) =>
    `Nombre una sola vez cada interruptor y luz de ${say.control(where.controlId)}: uno está dos veces y cuenta una.`,
  'control.shared-point': (say, { where }) =>
    `Dé cada interruptor y luz a un solo control: ${say.control(where.controlId)} comparte uno con otro.`,
  'control.switch-as-load': (say, { where }) =>
    `Quite el interruptor de lo que prende ${say.control(where.controlId)}: un interruptor no se prende.`,
  'control.switch-without': (say, { where }) =>
    `Diga qué prende el interruptor de ${say.box(where.boxId)}: todavía nada.`,
  'control.two-circuits': (say, { facts, where }) =>
    `Ponga ${say.control(where.controlId)} en un solo circuito: está en ${say.circuits(facts.circuitIds)}.`,
  'control.unreached': (say, { facts, where }) =>
    `Lleve corriente a todo ${say.control(where.controlId)}: ${say.circuit(facts.circuitId)} todavía no llega a cada interruptor y luz.`,
  'device.cannot-serve': (say, { facts, where }) =>
    `Ponga uno ${kindOf(facts.kind)} en ${say.box(where.boxId)}: ${say.control(where.controlId)} lo necesita, y ${say.device(where.deviceId).toLowerCase()} se hace ${or(say, facts.serves.map(kindOf))}.`,
  'device.wrong-voltage': (say, { facts, where }) =>
    `Ponga ${say.device(where.deviceId).toLowerCase()} de ${say.box(where.boxId)} en un circuito de ${say.volts(facts.hots)}: ${say.circuit(where.circuitId)} tiene ${facts.hots === 2 ? 'un polo' : 'dos polos'}.`,
  'fill.too-shallow': (say, { facts, where }) =>
    `Ponga una caja más honda en ${say.box(where.boxId)}: tiene ${say.units.short(facts.hasIn)} y hacen falta ${say.units.short(facts.needsIn)} o más lugar. Ninguna regla cuenta.`,
  'fill.too-full': (say, { facts, where }) =>
    `Ponga una caja más grande en ${say.box(where.boxId)}, o saque un cable: le sobran ${say.units.volume(facts.overIn3)}.`,
  'box.too-many-cables': (say, { facts, where }) =>
    `Saque un cable de ${say.box(where.boxId)}: entran ${facts.count}, tiene marcados ${facts.limit}.`,
  'gang.none-such': (say, { facts, where }) =>
    `Ponga una caja más ancha en ${say.box(where.boxId)}: tiene lugar para ${facts.has}, sus dispositivos ocupan ${facts.takes}.`,
  'gang.taken-twice': (say, { facts, where }) =>
    `Mueva un dispositivo en ${say.box(where.boxId)}: hay dos en el lugar ${facts.gang}.`,
  'gfci.crossed': (say, { facts }) => {
    const device = `el tomacorriente GFCI de ${say.box(facts.deviceBoxId)}`;
    const reason =
      facts.why === 'control'
        ? `Un control pasa por encima de ${device}.`
        : `Circuitos que comparten un neutro siguen juntos después de ${device}.`;
    return facts.askedIn.length
      ? [
          `Ponga un tomacorriente GFCI en ${say.boxes(facts.askedIn)}, o un breaker GFCI en el circuito: ${device} no lo protege.`,
          reason,
        ]
      : [`${device} no protege lo que sigue: va con colita por fuera de él.`, reason];
  },
  'layout.far-counter': (say, { facts, where }) =>
    `Ponga una toma en la cubierta de ${say.room(where.roomId)}, muro ${facts.wall}: una parte queda muy lejos de una.`,
  'layout.far-wall': (say, { facts, where }) =>
    `Ponga una toma en ${say.room(where.roomId)}, muro ${facts.wall}: una parte queda muy lejos de una.`,
  'layout.height': (say, { facts, where }) =>
    facts.what === 'ceiling'
      ? `Baje ${say.box(where.boxId)}: está arriba del techo.`
      : facts.what === 'switch'
        ? `Baje ${say.box(where.boxId)}: su interruptor queda muy alto.`
        : `Baje ${say.box(where.boxId)}: tan arriba de su cubierta no la sirve.`,
  'layout.in-the-way': (say, { facts, where }) =>
    `Mueva ${say.box(where.boxId)}: está ${facts.what === 'behind-door' ? 'detrás de una puerta abierta' : `en ${THING[facts.what]}`}.`,
  'layout.island': (say, { facts, where }) => {
    const thing = `${facts.kind === 'island' ? 'la isla' : 'la península'} de ${say.room(where.roomId)}`;
    if (facts.needs === 0)
      return `Lleve un paso para una toma a ${thing}: no se pide ninguna, pero debe poder agregarse.`;
    if (facts.atEnd) return `Ponga una toma de ${thing} a 2 ft de su punta, a lo más: ahí no hay.`;
    return `Ponga ${facts.needs - facts.has} toma(s) más en ${thing}: tiene ${facts.has} de ${facts.needs}.`;
  },
  'layout.no-light': (say, { facts, where }) =>
    facts.lacks === 'light'
      ? `Ponga una luz y su interruptor en ${say.room(where.roomId)}: no tiene.`
      : facts.lacks === 'switch'
        ? `Ponga un interruptor para la luz de ${say.room(where.roomId)}: ninguno la prende.`
        : `Ponga un interruptor en cada punta de ${say.room(where.roomId)}: su luz tiene uno.`,
  'layout.no-outlet': (say, { facts, where }) => {
    const room = say.room(where.roomId);
    switch (facts.what) {
      case 'basin':
        return `Ponga una toma junto al lavabo de ${room}: ninguna está cerca.`;
      case 'foyer-wall':
        return `Ponga una toma en ${room}, muro ${facts.needs}: cada muro largo lleva una.`;
      case 'service':
        return `Ponga una toma en ${room}: ahí hay equipo que se le da servicio.`;
      case 'outside':
        return `Ponga una toma al frente y una atrás de la casa: afuera hay ${facts.has}.`;
      default:
        return facts.needs > 1
          ? `Ponga ${facts.needs - facts.has} toma(s) más en ${room}: tiene ${facts.has} de ${facts.needs}.`
          : `Ponga una toma en ${room}: no tiene ninguna que cuente.`;
    }
  },
  'layout.own-circuit': (say, { facts, where }) =>
    facts.what === 'kitchen'
      ? `Ponga la cubierta de ${say.room(where.roomId)} en dos circuitos de ${facts.amps} A que no sirvan otra cosa.`
      : `Ponga las tomas de ${say.room(where.roomId)} en un circuito de ${facts.amps} A que no sirva otra cosa.`,
  'layout.panel': (say, { facts, where }) =>
    facts.why === 'room'
      ? `Cuelgue el panel ${say.box(where.boxId)} en otro cuarto: en ${say.room(where.roomId)} no se permite.`
      : `Deje libre el frente del panel ${say.box(where.boxId)}, o cuélguelo en otro lado: no hay espacio para trabajar.`,
  'layout.protection': (say, { facts, where }) =>
    `Dé a ${say.circuit(where.circuitId)} protección ${facts.needs === 'dual' ? 'AFCI y GFCI' : facts.needs.toUpperCase()}: llega a ${and(
      say,
      facts.roomIds.map((id) => say.room(id)),
    )}.`,
  'layout.same-bay': (say, { facts, where }) =>
    `Mueva ${say.box(where.boxId)} un claro: está en el de ${say.box(facts.otherBoxId)}.`,
  'layout.switch-order': (say, { where }) =>
    `Cambie el orden de los interruptores en ${say.box(where.boxId)}: primero la luz que se quiere primero.`,
  'layout.tub': (say, { facts, where }) =>
    `Aleje ${say.box(where.boxId)} de la tina o regadera: ${facts.what === 'switch' ? 'en su espacio no va interruptor' : facts.what === 'fan' ? 'encima no cuelga ventilador' : 'ninguna toma va tan cerca'}.`,
  'made.conductor-twice': (say, { facts, where }) =>
    `Mire dentro de ${say.box(where.boxId)}: ${facts.conductor} está anotado en dos uniones. Vale la primera.`,
  'made.connector-misfit': (say, { facts, where }) =>
    facts.instead
      ? `Use ${say.connector(facts.instead)} en ${say.box(where.boxId)}: ${say.connector(facts.connectorId)}, que está anotado, no toma ${bundleText(facts.bundle)}.`
      : `Haga dos empalmes en ${say.box(where.boxId)}: ningún conector de la tabla toma ${bundleText(facts.bundle)}.`,
  'made.unknown-conductor': (say, { facts, where }) =>
    `Mire dentro de ${say.box(where.boxId)}: hay una unión anotada con ${facts.conductor}, que ningún cable de aquí tiene. No cuenta.`,
  'made.unknown-terminal': (say, { facts, where }) =>
    `Mire dentro de ${say.box(where.boxId)}: hay una unión anotada con ${facts.conductor}, que nada de aquí tiene. No cuenta.`,
  'made.white-unmarked': (say, { facts, where }) =>
    `${markWith(say, facts, ` de ${say.box(where.boxId)}`)}: ${markedWhite(facts.is)}, y el siguiente lo toma por otra cosa.`,
  'makeup.no-connector': (say, { facts, where }) =>
    `Haga dos empalmes con un puente en ${say.box(where.boxId)}: ningún conector de la tabla toma tantos (${say.jointTitle(facts.title)}).`,
  'multiwire.same-leg': (say, { facts }) =>
    `Mueva un breaker una fila: ${say.circuits(facts.circuitIds)} comparten el neutro en la misma fase del panel, y carga con los dos.`,
  'multiwire.too-many': (say, { facts }) => [
    `Dé a uno de los ${say.circuits(facts.circuitIds)} su propio neutro: solo dos vivos pueden compartir uno.`,
    'La acometida tiene dos fases, una para cada uno; el tercero se suma a la corriente del neutro.',
  ],
  'neutral.on-ground': (say, { facts, where }) =>
    `Lleve ${say.term('neutral')} a ${facts.count - facts.limit} más de los interruptores electrónicos de ${facts.of === 'circuit' ? say.circuit(where.circuitId) : say.box(where.boxId)}: ${facts.count} van por la tierra, se permiten ${facts.limit}.`,
  'neutral.missing-at-switch': (say, { facts, where }) =>
    `Lleve un neutro a ${say.control(where.controlId)} en ${say.box(where.boxId)}: ${and(
      say,
      facts.runIds.map((id) => say.run(id)),
    )} no ${facts.runIds.length === 1 ? 'tiene' : 'tienen'} conductor libre.`,
  'panel.not-derived': (say, { where }) =>
    `Alimente el panel ${say.box(where.boxId)} con un circuito de dos polos: ${say.circuit(where.circuitId)} no lo es, y ahí no se calcula.`,
  'point.circuit-unsaid': (say, { facts, where }) =>
    `Diga en qué circuito está ${say.device(where.deviceId).toLowerCase()} (lugar ${say.gangOf(where.deviceId)}) de ${say.box(where.boxId)}: ahí están ${say.circuits(facts.circuitIds)}.`,
  'proof.always-on-is-not': (say, { facts }) =>
    `${say.load(facts.load)} debe tener siempre corriente y está sin ella${facts.inPosition ? ' con los interruptores así' : ''}.`,
  'proof.circuits-joined': (say, { facts, where }) => {
    const [one, other] = facts.circuitIds.map((id) => say.circuit(id));
    if (facts.what === 'load')
      return `Pase el neutro de ${say.load(facts.load)} a ${other}: su corriente regresa por ${one}.`;
    const both = say.circuits(facts.circuitIds);
    const at = where.boxId ? ` en ${say.box(where.boxId)}` : '';
    return facts.what === 'neutrals'
      ? `Separe los neutros de ${both}${at}: están unidos.`
      : `Separe los vivos de ${both}${at}: están unidos, y con un breaker apagado sigue vivo.`;
  },
  'proof.does-not-follow': (say, { facts, where }) => {
    const load = say.load(facts.load);
    switch (facts.how) {
      case 'stays':
        return `${load} sigue ${facts.isOn ? 'prendida' : 'apagada'} al mover el interruptor de ${say.box(facts.switchBoxId)} con los otros así.`;
      case 'changes':
        return `${load} cambia con un interruptor de ${say.box(facts.switchBoxId)} que no debe prenderla.`;
      case 'apart':
        return `${load} y un interruptor de ${say.control(where.controlId)} no están unidos: no puede seguirlo.`;
    }
  },
  'proof.feeder': (say, { facts, where }) =>
    facts.lacks === 'neutral'
      ? `Lleve el neutro de ${say.circuit(facts.circuitId)} a la barra de neutros de ${say.box(where.boxId)}: no llega.`
      : `Lleve dos vivos de ${say.circuit(facts.circuitId)} a ${say.box(where.boxId)}: no llegan los dos.`,
  'proof.interconnect': (say, { facts, where }) =>
    facts.touches
      ? `Quite la interconexión de la alarma de ${say.box(where.boxId)} de lo otro a lo que está unida: la alarma se quema o no despierta a las demás.`
      : `Una la interconexión de la alarma de ${say.box(where.boxId)} con las demás: no suena cuando ellas suenan.`,
  'proof.load-on-line': (say, { facts, where }) =>
    facts.isBackwards
      ? `Cambie LINE y LOAD del GFCI de ${say.box(where.boxId)}: alimentado por LOAD no protege nada y no se puede restablecer.`
      : `Separe LOAD de LINE en el GFCI de ${say.box(where.boxId)}: lo que sigue no queda protegido, o se dispara enseguida.`,
  'proof.neutral-broken': (say, { facts }) =>
    `No regresa neutro de ${say.load(facts.load)}: falta un empalme.`,
  'proof.neutral-grounded': (say, { where }) => [
    `Separe neutro y tierra en ${say.box(where.boxId)}: se tocan.`,
    'Parte de la corriente regresa por los alambres desnudos, y un breaker GFCI o AFCI se dispara.',
  ],
  'proof.neutral-on-bar': (say, { facts }) =>
    facts.watched
      ? `Conecte el neutro de ${say.circuit(facts.circuitId)} a su propio breaker (${facts.watched.toUpperCase()}), o se dispara al prender algo.`
      : `Conecte en otro lado el neutro de ${say.circuit(facts.circuitId)}: está en el breaker de ${say.circuit(facts.landsOn)}, que se dispara.`,
  'proof.no-ground': (say, { where }) =>
    where.deviceId
      ? `Lleve tierra al dispositivo de ${say.box(where.boxId)}: no le llega.`
      : `Una la caja metálica ${say.box(where.boxId)} a tierra: nada la une.`,
  'proof.off-position': (say, { where }) =>
    `${say.control(where.controlId)} queda prendido con todos los interruptores abajo. Voltee uno de tres vías, o cambie sus viajeros, si abajo debe ser apagado.`,
  'proof.other-breaker': (say, { facts }) => [
    `${say.load(facts.load)} cuelga del breaker de ${say.circuit(facts.other)}: con el suyo apagado sigue viva.`,
    `Es de ${say.circuit(facts.own)}.`,
  ],
  'proof.ring-open': (say, { facts, where }) =>
    `Cierre otra vez el anillo de ${say.circuit(where.circuitId)}: su ${say.term(facts.core)} no vuelve por los dos lados. ${where.runId ? `Se abre en ${say.run(where.runId)}.` : ''}`,
  'proof.series': (say, { facts }) =>
    facts.state === 'dim'
      ? `${say.load(facts.load)} está en serie con otra: ${facts.volts.toFixed(0)} V en vez de ${facts.rated}.`
      : `${say.load(facts.load)} recibe ${facts.volts.toFixed(0)} V en vez de ${facts.rated}: su neutro está abierto o falta.`,
  'proof.short': (say, { facts, where }) =>
    `El breaker se dispara: ${say.short(facts.short)}, en ${say.box(where.boxId)}.`,
  'proof.spare-joined': (say, { where }) =>
    `Tape el conductor de reserva de ${say.box(where.boxId)}: está unido a algo.`,
  'proof.switched-neutral': (say, { facts }) =>
    `Ponga el interruptor de ${say.load(facts.load)} en el vivo: corta el neutro, y lo apagado queda vivo.`,
  'proof.unbalanced': (say, { facts, where }) => [
    `Junte vivo y neutro: van en cables distintos. Sobran ${facts.amps.toFixed(facts.amps < 0.05 ? 3 : 1)} A en ${say.run(where.runId)}.`,
    `Todos los conductores de un circuito van por el mismo camino, o el cable se calienta y zumba.${facts.more ? ` Lo mismo en ${facts.more} más.` : ''}`,
  ],
  'proof.white-unmarked': (say, { facts, where }) =>
    `Marque el ${facts.colours.map(say.colour).join(' y ')} de ${say.cableAt(where.runId, where.boxId)} en ${say.box(where.boxId)}: es vivo, y el siguiente lo toma por otra cosa.`,
  'raceway.cannot-count': (say, { facts, where }) =>
    `Cuente a mano ${say.run(where.runId)}: el reglamento no tiene área para ${facts.gauges.map(gaugeText).join(', ')}.`,
  'raceway.no-size': (say, { where }) =>
    `Diga el tamaño comercial de ${say.run(where.runId)}, para contar su llenado.`,
  'raceway.too-full': (say, { facts, where }) =>
    `Saque alambres de ${say.run(where.runId)}, o ponga tubo más grande: ${facts.wires} alambres llenan ${say.raceway(facts.tradeSize)} más de ${facts.percent} %.`,
  'rule.loosened': (say, { facts }) =>
    `La regla de la casa “${say.rule(facts.key)}” es menos estricta que la edición del código. Motivo dado: ${facts.reason}`,
  'rule.loosened-without-reason': (say, { facts }) =>
    `Escriba por qué la regla de la casa “${say.rule(facts.key)}” es menos estricta que la edición, o regrésela.`,
  'run.circuits-apart': (say, { facts, where }) => [
    `Dé un cable a cada uno de los ${say.circuits(facts.circuitIds)}: los dos van en ${say.run(where.runId)} y no comparten neutro.`,
    'O deles un mismo grupo de neutro y una desconexión común.',
  ],
  'run.loose-end': (say, { where }) =>
    `Diga adónde va ${say.run(where.runId)}, o qué cuelga ahí: termina suelto y sus conductores quedan abiertos.`,
  'run.struck': (say, { facts, where }) => {
    const told = facts.note ? ` (${facts.note})` : '';
    return facts.isCut
      ? `Jale ${say.run(where.runId)} otra vez: otro oficio lo cortó${told}.`
      : `Revise ${say.run(where.runId)}: otro oficio lo movió${told}. Grapas, orillas y placas pueden ya no estar bien.`;
  },
  'run.no-cable': (say, { facts, where }) =>
    `Escoja un cable ${say.ends(where.runId)}${facts.needed ? `: necesita ${facts.needed}` : ''}.`,
  'run.no-circuit': (say, { where }) =>
    `Diga de qué circuito es ${say.run(where.runId)}: todavía de ninguno.`,
  'run.no-one-cable': (say, { facts, where }) =>
    `Jale dos cables lado a lado para ${say.run(where.runId)}, cada uno con su juego completo, o tubo: ningún cable tiene ${facts.count} conductores.`,
  'slot.none-such': (say, { facts, where }) =>
    `Diga otra entrada en ${say.box(where.boxId)}: hay un cable en la entrada ${facts.slot}, y tiene ${facts.slots}.`,
  'slot.too-many': (say, { facts, where }) =>
    `Mueva un cable en ${say.box(where.boxId)}: la entrada ${facts.slot} tiene ${facts.count} y toma ${facts.limit}.`,
  ...SPANISH_WALK_WORDS,
  'way.bored': (say, { facts, where }) => {
    const through = { stud: 'un montante', plate: 'una solera', joist: 'una vigueta' }[facts.through];
    return `Lleve ${say.run(where.runId)} por otro lado: su agujero ${facts.isLarge ? `es más grande de lo que ${through} puede perder` : `queda demasiado cerca del borde de ${through}`}.`;
  },
  'way.derated': (say, { facts, where }) =>
    `Haga otro agujero para ${say.run(where.runId)}: hay ${facts.cables} cables en uno, en aislante, y ahí llevan ${facts.percent} % de 90 °C, ${facts.amps} A.`,
  'way.none': (say, { facts, where }) =>
    facts.why === 'no-wall'
      ? `Arrastre ${say.box(where.boxId)} o su otro extremo a un muro: el largo de ${say.run(where.runId)} es un cálculo, una caja no está en ningún muro.`
      : facts.why === 'no-space'
        ? `Revise los dos extremos de ${say.run(where.runId)}: el cable no llega a uno de ellos, y su largo es un cálculo.`
        : `Mida ${say.run(where.runId)}, o diga qué se puede perforar: ningún camino por la estructura lleva de un extremo al otro.`,
  'way.shut': (say, { where }) =>
    `Deje pasar ${say.run(where.runId)} otra vez por un muro: no hay camino alrededor de lo cerrado.`,
  'way.unreached': (say, { facts, where }) =>
    `Mueva ${facts.points === 1 ? 'el punto' : 'los puntos'} por donde ${say.run(where.runId)} debe pasar: el cable no llega ahí.`,
  'zone.outside': (say, { facts, where }) =>
    `Lleve ${say.run(where.runId)} a una zona segura: ${say.units.long(facts.lengthIn)} van ocultos donde nadie busca cable.`,
  'zone.no-rcd': (say, { facts, where }) =>
    `Ponga ${say.term('GFCI')} a ${say.circuit(where.circuitId)}: su cable va oculto ${facts.anyDepth ? 'en muros con metal' : 'menos hondo de lo pedido'}, primero ${say.run(where.runId)}.`,
  'wire.too-thin': (say, { facts, where }) =>
    `${facts.isIn ? 'Jale' : 'Planee'} ${gaugeText(facts.least)} o más grueso ${say.ends(where.runId)}: ${gaugeText(facts.thinnest)} es muy delgado ${
      facts.mca === undefined ? `para ${facts.amps} A` : `para los ${facts.mca} A de la placa`
    } de ${say.circuit(where.circuitId)}.`,
  'wiring.cut-off': (say, { facts, where }) =>
    `Jale el puente que falta a ${say.boxes(facts.boxIds)}: nada las une al panel en ${say.circuit(where.circuitId)}.`,
  'ring.leg-missing': (say, { where }) => [
    `Traiga el otro extremo de ${say.circuit(where.circuitId)} desde ${say.box(where.boxId)}: es un anillo y solo un extremo llega a su interruptor.`,
    'Así, medio cable lleva todo.',
  ],
  'ring.bridged': (say, { where }) => [
    `Quite ${say.run(where.runId)}: puentea el anillo de ${say.circuit(where.circuitId)}.`,
    'Ningún extremo mostraría ya un anillo abierto.',
  ],
  'ring.spur': (say, { facts, where }) =>
    facts.onward
      ? `Meta ${say.box(where.boxId)} en el anillo: cuelga de un ramal que ya alimenta otra. Lleva ${facts.has}, puede ${facts.takes}.`
      : `Deje ${facts.takes} de ${facts.has} en ${say.box(where.boxId)}: cuelga de un ramal.`,
  'wiring.loop': (say, { where }) => [
    `Saque ${say.run(where.runId)}, o cambie qué cajas une: cierra un lazo en ${say.circuit(where.circuitId)}.`,
    'Sus dos puntas ya tienen corriente; sus conductores quedan abiertos.',
  ],
  'wiring.too-few-conductors': (say, { facts, where }) => {
    const { has, needed } = facts;
    const there =
      'cable' in has
        ? `${has.cable} está ${has.isIn ? 'en la pared' : 'planeado'}`
        : has.usable === has.wires
          ? `tiene ${has.wires} alambres`
          : `${has.usable} de sus ${has.wires} alambres son de este circuito`;
    const first = needed
      ? `${'cable' in has && has.isIn ? 'Jale' : 'Planee'} ${needed} ${say.ends(where.runId)}`
      : 'cable' in has
        ? `Jale un segundo cable junto a ${say.run(where.runId)}`
        : `Meta más alambres en ${say.run(where.runId)}`;
    return [
      `${first}: no hay conductor para ${say.signals(facts.missing)}.`,
      `Debe llevar ${say.signals(facts.wanted)}; ${there}.`,
    ];
  },
  'wiring.unreached': (say, { facts, where }) =>
    where.circuitId
      ? `Jale un puente o la línea al panel hasta ${say.box(where.boxId)}: nada de ${say.circuit(where.circuitId)} llega.`
      : `Lleve corriente a ${say.box(where.boxId)}: ningún tramo llega, y ${say.deviceType(facts.catalogueId).toLowerCase()} la necesita.`,
  'yoke.two-circuits': (say, { facts, where }) => [
    `Rompa la pestaña en el lugar ${facts.gang} de ${say.box(where.boxId)}: ${say.circuits(facts.circuitIds)} están en un mismo yugo.`,
    'Sus breakers necesitan una desconexión común.',
  ],
};
