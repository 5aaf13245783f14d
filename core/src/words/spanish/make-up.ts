import type { CautionWords, MakeUpWords } from '../language/language.js';
import { listed, sentence } from '../language/sentence.js';
import { markWith, markedWhite } from './marked-white.js';

/** El armado de una caja. */
export const spanishMakeUp = (): MakeUpWords => ({
  notes: {
    'link-only': () => 'Un puente de terminal a terminal; sin empalme.',
    'left-long-looped': (_say, { to }, { landed }) =>
      `Déjelo largo y páselo sin cortar por los tornillos: ${landed(to)}. Sin empalme.`,
    'landed-then-links': (_say, { to }, { landed }) =>
      `Conéctelo en ${landed(to)}; puentes cortos de ahí a los demás. Sin empalme.`,
    'together-in-terminal': (_say, { to }, { landed }) =>
      `Todos entran juntos en ${landed(to)}; vea que cada uno quede sujeto.`,
    'links-on': () => 'Puentes cortos de ahí a los demás.',
    'one-loop': () => 'Un alambre sin cortar por los tornillos, de entrada a entrada.',
    'one-pigtail-and-links': () => 'Una colita; puentes cortos de entrada a entrada.',
    'clip-back': (say, { lengthIn }) => `Tuerza antes, luego corte a ${say.units.short(lengthIn)}.`,
    'other-link-here': () => 'El puente del otro empalme entra aquí también.',
    'longest-is-pigtail': (_say, { to }, { list }) =>
      `Pase la tierra más larga por el hoyo: es la primera colita, a ${list(to)}.`,
    hooks: () => 'Ganchos hacia la derecha, media vuelta o más al tornillo.',
    'own-bar-screw': () =>
      'Cada una bajo su propio tornillo de la barra de tierra, o como esté marcado el panel.',
    'clamp-straight': () =>
      'La mordaza toma el alambre derecho, sin gancho: pele como está marcado y apriete al torque que dice.',
    'shared-neutral': (_say, _note, { section }) =>
      `Un neutro que comparten circuitos se empalma con colita, nunca a través del dispositivo (${section('neutralWhole')}).`,
    'more-may-join': () => 'Aquí pueden entrar más: algo de esta caja todavía no está calculado.',
    'mark-white': (say, { is, ...marking }) =>
      `${markWith(say, marking)}, aquí y donde se vea: ${markedWhite(is)}.`,
    'travelers-together': () =>
      'Los dos viajeros de un par van en un mismo cable; mantenga este color de este lado en toda la cadena.',
    'colour-changes': (say, { side, ends }, { far }) =>
      `El viajero ${side.toUpperCase()} cambia de color en esta caja: ${ends
        .map(({ colour, runId }) => say.wireTo(colour, far(runId)))
        .join(', ')}.`,
    'leave-loop': (say, { lengthIn }) =>
      `Deje una vuelta de ${say.units.short(lengthIn)}, para poder poner después un dispositivo.`,
    'capped-both-ends': () => 'Tápelo en las dos puntas y anótelo.',
    'raceway-is-ground': () => 'El tubo metálico es la tierra de esta caja.',
    'label-it': (_say, { controlId }, { control }) => `Etiquételo: ${control(controlId) ?? 'retorno'}.`,
    'at-its-gang': () => 'Cuélguelo en su lugar.',
    'tug-and-fold': () => 'Jale cada alambre, luego doble el empalme al fondo antes del siguiente.',
  },
  from: {
    cable: (colour, far, looped) => `${colour} del cable a ${far}${looped ? ', sigue sin cortar' : ''}`,
    other: {
      'loop-from-splice': 'vuelta del empalme de vivo',
      'loop-from-screw': 'vuelta del tornillo anterior',
      'link-from-screw': 'puente del tornillo anterior',
      link: 'puente de terminal a terminal',
    },
    pigtail: (of) => `colita del empalme de ${of}`,
  },
  seen: { front: 'vista de frente', behind: 'vista por detrás' },
  sheetNotes: {
    'seen-from-behind': () =>
      'Vista por detrás, como se conecta: el módulo 1, a la izquierda de frente, aquí queda a la derecha.',
    'seen-from-front': () => 'Vista de frente: por detrás se cambian izquierda y derecha.',
    'second-empty': () => 'Usada como sencilla: COM y L1, L2 queda vacío.',
    'common-is-odd': () =>
      'El común es el tornillo de otro color, los otros dos son los viajeros; dónde están depende de la marca.',
    'four-way-pairs': () =>
      'Uno de cuatro vías no tiene común. Qué tornillos son par depende de la marca: siga su hoja.',
    'break-tab-hot': () => 'Rompa la pestaña entre los dos tornillos de vivo.',
    'break-tab-supply': () => 'Rompa la pestaña entre los dos tornillos de entrada.',
    'break-tab-neutral': () => 'Rompa también la pestaña entre los dos tornillos de neutro.',
    'line-and-load': () => 'El par que llega en LINE, el que sigue en LOAD; nunca una los dos lados.',
    'needs-neutral': () => 'Este dispositivo necesita su neutro.',
    'hand-tools': (torque) => `Solo herramienta de mano; apriete al torque marcado (${torque}).`,
  },
  test: {
    singlePole: (supply, leg) => `Una la entrada (${supply}) y ${leg}: prendido.`,
    threeWay: (common, traveler, other) =>
      `Una el común (${common}) y el viajero A (${traveler}); tape ${other}.`,
    fourWay: (a, b, c, d) => `Derecho: una A (${a}) con A (${b}), B (${c}) con B (${d}).`,
  },
  inShort: ({ wires, pigtails, landsOn, strip, connector, marks }) =>
    [
      wires.join('; '),
      pigtails && (pigtails === 1 ? '1 colita' : `${pigtails} colitas`),
      landsOn && `en ${landsOn}`,
      strip && `pele ${strip}`,
      connector,
      marks && (marks === 1 ? 'marque el blanco' : `marque ${marks} blancos`),
    ]
      .filter(Boolean)
      .map((part) => sentence(`${part}.`))
      .join(' '),
  onTo: (landings) => landings.join(', sigue a '),
  labels: { powerIn: 'entra corriente', on: (far) => `sigue a ${far}`, to: (far) => `a ${far}` },
});

/** Las precauciones de siempre. */
export const spanishCaution = (): CautionWords => ({
  atPanel: (power, breakers) => {
    if (power === 'no-service')
      return 'Todavía sin servicio: el panel no está conectado. Vea de todos modos que nadie haya metido corriente temporal.';
    const turn = breakers.length
      ? `APAGUE el ${listed(breakers, ' y el ')} y póngale candado o etiqueta ${breakers.length === 1 ? '' : 'a cada uno '}“cuadrilla trabajando, no prender”.`
      : 'APAGUE su breaker y póngale candado o etiqueta “cuadrilla trabajando, no prender”.';
    return power === 'temporary'
      ? `La casa tiene corriente temporal. ${turn} Desenchufe lo que alimenta los circuitos temporales.`
      : turn;
  },
  short: (power, numbers) => {
    if (power === 'no-service') return 'Sin servicio · compruebe igual que no hay corriente';
    const which = numbers.length
      ? `Breaker ${listed(numbers.map(String), ' y ')} APAGADO`
      : 'Breaker APAGADO';
    return `${which}, con candado o etiqueta · comprobado sin corriente`;
  },
  proveDead:
    'Luego compruebe que no hay corriente: probador en una fuente viva conocida, en el trabajo, y otra vez en la fuente viva. Un probador sin contacto solo puede fallar.',
  who: 'Deciden el código local, el inspector y un electricista con licencia; esta hoja solo aconseja.',
  power: {
    'no-service': 'Sin servicio',
    temporary: 'Corriente temporal',
    live: 'Con corriente',
    'not-said': 'Corriente sin decir: tómela como viva',
  },
});
