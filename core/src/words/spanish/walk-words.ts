import type { CableRole, Settling, WalkTold } from '../../findings/walk-facts.js';
import type { FindingWords, Say } from '../language/language.js';

/** Maneras que se dicen; las demás se cuentan. */
const TOLD = 3;

const cable = (say: Say, role: CableRole): string =>
  role === 'power' ? 'cable de corriente' : `cable de ${say.term('leg')}`;
const missing = (say: Say, as: WalkTold['as']): string =>
  as === 'home-run' ? say.term('home run') : say.term(as === 'leg' ? 'leg' : 'jumper');
const between = (say: Say, [a, b]: readonly [string, string]): string =>
  `entre ${say.box(a)} y ${say.box(b)}`;

/** Qué hacer con lo que encontró un recorrido. */
function act(say: Say, { fault, as, isLogged }: WalkTold): string {
  switch (fault.kind) {
    case 'missing':
      return `Jale lo que falta (${missing(say, as)}): ${say.run(fault.runId)} no está${isLogged ? ', aunque el registro lo da por puesto' : ''}.`;
    case 'extra':
      return as === 'loop'
        ? `Saque el ${cable(say, fault.role)} ${between(say, fault.boxIds)}: no está planeado y cierra un lazo.`
        : as === 'crossed'
          ? `Saque el ${cable(say, fault.role)} ${between(say, fault.boxIds)}: une dos circuitos.`
          : `Saque el ${cable(say, fault.role)} ${between(say, fault.boxIds)}, o planéelo: nadie lo pidió.`;
    case 'misrouted':
      return `Lleve a ${say.box(fault.left)} ${say.run(fault.runId)}: llegó a ${say.box(fault.got)}${as === 'crossed' ? ', que es de otro circuito' : ''}.`;
    case 'other-role':
      return `Revise ${say.run(fault.runId)}: hay corriente donde se planeó ${say.term('leg')}, o al revés.`;
    case 'not-in':
      return `Busque en ${say.box(fault.boxId)} la punta de ${say.run(fault.runId)}: no ha entrado en la caja.`;
    case 'stray':
      return `Siga el ${cable(say, fault.role)} que le sobra a ${say.box(fault.boxId)}: su otra punta no está en ninguna caja.`;
  }
}

/** Una manera en que puede ser. */
function clause(say: Say, { fault }: WalkTold): string {
  switch (fault.kind) {
    case 'missing':
      return `falta ${say.run(fault.runId)}`;
    case 'extra':
      return `sobra un ${cable(say, fault.role)} ${between(say, fault.boxIds)}`;
    case 'misrouted':
      return `${say.run(fault.runId)} llegó a ${say.box(fault.got)} en vez de a ${say.box(fault.left)}`;
    case 'other-role':
      return `${say.run(fault.runId)} es de la otra clase`;
    case 'not-in':
      return `${say.run(fault.runId)} no ha entrado en ${say.box(fault.boxId)}`;
    case 'stray':
      return `un ${cable(say, fault.role)} en ${say.box(fault.boxId)} no viene de ninguna caja`;
  }
}

function settle(say: Say, settling: Settling): string {
  const box = say.box(settling.boxId);
  switch (settling.kind) {
    case 'trace':
      return `Jalonee los cables en ${box}: aquella de ${say.boxes(settling.ends)} a la que no va ninguno es la que quedó sin el suyo.`;
    case 'odd':
      return settling.ends.length
        ? `Jalonee los cables en ${box}: los que van a ${say.boxes(settling.ends)} están planeados; el que va a otra parte, no.`
        : `Jalonee los cables en ${box} y vea de dónde viene cada uno: de esa clase no se planeó ninguno.`;
    case 'look':
      return `Vea en ${box} cuál cable está: varios van por el mismo camino.`;
    case 'count':
      return `Cuente ahora ${box}: eso lo decide.`;
  }
}

export const SPANISH_WALK_WORDS: Pick<
  FindingWords,
  'walk.found' | 'walk.either' | 'walk.unclear' | 'walk.leg-early'
> = {
  'walk.found': (say, { facts }) => act(say, facts.told),
  'walk.either': (say, { facts: { ways, lessLikely, settling }, where }) => [
    settling ? settle(say, settling) : `Revise ${say.box(where.boxId)}: lo que entra no es lo planeado.`,
    `O ${say.tongue.phrases.or(ways.slice(0, TOLD).map((way) => way.map((told) => clause(say, told)).join(' y ')))}${ways.length > TOLD ? `, o una de ${ways.length - TOLD} más` : ''}.${lessLikely ? ` ${lessLikely} menos probables contarían lo mismo.` : ''}`,
  ],
  'walk.unclear': (say, { facts }) => [
    `Cuente otra vez ${say.boxes(facts.boxIds)}: hay más diferencias de las que explican unos pocos errores.`,
    'Si las cuentas son esas, el plano no es lo que hay en las paredes: siga los cables uno por uno.',
  ],
  'walk.leg-early': (say, { facts, where }) => [
    `Jale toda la corriente de ${say.circuit(where.circuitId)} y recórrala antes de meter otro ${say.term('leg')}.`,
    `${facts.legIds.length === 1 ? 'Ya hay uno puesto' : `Ya hay ${facts.legIds.length} puestos`} y ${facts.powerIds.length === 1 ? `falta ${say.run(facts.powerIds[0])}` : `faltan ${facts.powerIds.length} cables de corriente`}: así es como se olvida un puente.`,
  ],
};
