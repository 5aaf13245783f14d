import { gaugeNumber } from '../../vocabulary/size.js';
import type { FixWords } from '../language/language.js';

/** Lo que dice el botón de cada salida. */
export const SPANISH_FIXES: FixWords = {
  'change-box': (say, { boxId, catalogueId }) => `Cambiar ${say.box(boxId)} a ${say.boxType(catalogueId)}`,
  'derive-order': (say, { controlId }) => `Dejar que se calcule el orden de ${say.control(controlId)}`,
  'draw-wires': (say, { wires }) =>
    `Meter ${wires.map(({ gauge, colour }) => `${gaugeNumber(gauge)} ${say.colour(colour)}`).join(', ')}`,
  'edition-value': () => 'Regresar al valor de la edición',
  excuse: (say, { boxId, reason }) => `Excusar ${say.box(boxId)}: ${say.exception(reason)}`,
  'feed-other-end': (say, { boxId, insteadOf }) =>
    `Que la corriente entre por ${say.box(boxId)} en vez de ${say.box(insteadOf)}`,
  'gfci-receptacle': (say, { boxId }) => `Hacerlo tomacorriente GFCI en ${say.box(boxId)}`,
  'leave-group': (say, { circuitId }) => `Sacar ${say.circuit(circuitId)} del grupo`,
  'made-again': (_say, { all }) =>
    all ? 'Todo ya se hizo de nuevo como debe ser' : 'Ya se hizo de nuevo como debe ser',
  'make-ring': (say, { circuitId }) => `Haga de ${say.circuit(circuitId)} un anillo`,
  'ring-home': (say, { boxId }) => `Planear un cable de ${say.box(boxId)} al panel`,
  'no-ring': (say, { circuitId }) => `Deje ${say.circuit(circuitId)} sin anillo`,
  'marked-for-two': () => 'El breaker está marcado para dos alambres',
  'marked-now': () => 'Ya está marcado',
  'move-panel': (say, { boxId, roomId }) => `Mover ${say.box(boxId)} a ${say.room(roomId)}`,
  'let-go-points': () => 'Soltar los puntos a los que no llega',
  'let-in-walls': () => 'Dejarlo pasar por todos los muros',
  'way-around': (say, { runId, moreIn }) =>
    `Llevar ${say.run(runId)} por zonas seguras${moreIn >= 6 ? `, ${say.units.long(moreIn)} más largo` : ''}`,
  'move-box': (say, { boxId, byIn }) => `Mover ${say.box(boxId)} ${say.units.long(byIn)}`,
  'name-once': () => 'Nombrar cada uno una vez',
  'plain-switch': (say, { boxId }) => `Poner un interruptor normal en ${say.box(boxId)}`,
  'plan-cable': (say, { cable, runId }) => `Planear ${cable} ${runId ? say.ends(runId) : 'para este tramo'}`,
  protect: (say, { circuitId, protection }) =>
    `Breaker ${protection === 'dual' ? 'AFCI y GFCI' : protection.toUpperCase()} en ${say.circuit(circuitId)}`,
  'put-on-circuit': (say, { circuitId }) => `Ponerlo en ${say.circuit(circuitId)}`,
  'reorder-switches': (say, { boxId }) => `Cambiar el orden en ${say.box(boxId)}`,
  'set-out': (say, { boxId, outIn }) => `${say.box(boxId)} sale ${say.units.short(outIn)}`,
  'fewer-in-hole': (_say, { cables }) => `Cuando más ${cables} cables en un agujero de esta casa`,
  'set-height': (say, { boxId, heightIn }) => `Poner ${say.box(boxId)} a ${say.units.short(heightIn)}`,
  'own-box': (say, { boxId, cables }) =>
    `Poner un soporte junto a ${say.box(boxId)} para ${cables === 1 ? 'el cable' : 'los cables'} de bajo voltaje`,
  'own-circuit': (say, { roomId, circuits }) =>
    circuits > 1
      ? `Dar a las tomas de ${say.room(roomId)} ${circuits} circuitos propios`
      : `Dar a las tomas de ${say.room(roomId)} un circuito propio`,
  'set-light': (say, { roomId }) => `Poner una luz y su interruptor en ${say.room(roomId)}`,
  'set-receptacle': (say, { roomId }) => `Poner una toma en ${say.room(roomId)}`,
  'set-switch': (say, { roomId }) => `Poner un interruptor en ${say.room(roomId)}`,
  'side-by-side': (_say, { first, second }) => `Jalar dos lado a lado: ${first} y ${second}`,
};
