/** Nombres y textos que solo tiene el reglamento británico, por su inglés. */
export const BRITAIN: Readonly<Record<string, string>> = {
  'r1 and rn of a ring are alike to': 'r1 y rn de un anillo son iguales hasta',
  'Surface pattress 32 mm, 1 gang': 'Caja de superficie 32 mm, 1 módulo',
  'Ceiling rose or lid on a round box': 'Roseta de techo o tapa en caja redonda',
  'Junction box 20 A': 'Caja de derivación 20 A',
  'Consumer unit': 'Cuadro de la vivienda',
  'Downlight with its own terminal box': 'Luz empotrada con su caja de bornes',
  'Switch plate': 'Placa de interruptor',
  'Twin socket outlet': 'Toma doble británica',
  'Single socket outlet': 'Toma sencilla británica',
  'Fixed appliance': 'Aparato fijo',
  'earth terminal block': 'regleta de tierra',
  'Lighting is looped': 'El alumbrado se encadena',
  'Rooms of which the circuits have arc-fault detection (AFDD)':
    'Cuartos cuyos circuitos tienen detección de arco (AFDD)',
  'All socket outlets of the kitchen have RCD protection':
    'Todas las tomas de la cocina tienen protección diferencial',
  'RCD protection is asked of socket outlets up to': 'Se pide protección diferencial en tomas hasta',
  'Free core from where it leaves the sheath': 'Conductor libre desde donde sale de la cubierta',
  'A neutral at switches': 'Un neutro en los interruptores',
  'Rooms in which socket outlets have 30 mA RCD protection':
    'Cuartos donde las tomas tienen protección diferencial de 30 mA',
  'Every ceiling point is fixed for a fan': 'Cada punto de techo se fija para ventilador',
  'Permanent line of a switch drop': 'Línea permanente de una bajada al interruptor',
  'Cables that one knockout takes': 'Cables que pasan por una entrada',
  'Strip for a pillar terminal, the end doubled over': 'Pelado para borne de tornillo, con la punta doblada',
  'Strip for a connector': 'Pelado para un conector',
  'Strip before it is clipped back': 'Pelado antes de recortar la punta',
  'Strip for lever and push-in terminals': 'Pelado para bornes de palanca y de empuje',
  'Strip for clamps: MCBs, bars, cooker plates':
    'Pelado para mordazas: automáticos, barras, placas de cocina',
  'Line to several gangs': 'Línea a varios módulos',
  'Twist cores before they go into one terminal': 'Torcer los conductores antes de meterlos en un borne',
  Joints: 'Uniones',
  'Core for the fan where fan and light share a cable':
    'Conductor del ventilador donde ventilador y luz comparten cable',
  'Cable clipped within, of a box': 'Cable grapado a no más, de una caja',
  'Cable clipped within, of a plain box': 'Cable grapado a no más, de una caja lisa',
  'Small flat cable is clipped at least every': 'El cable plano chico se grapa al menos cada',
  'Rooms with socket outlets along their walls by a rule':
    'Cuartos con tomas a lo largo de sus muros por regla',
  'No point of a worktop is farther from a socket outlet than':
    'Ningún punto de una encimera está más lejos de una toma que',
  'Worktops that count, from': 'Encimeras que cuentan, desde',
  'Socket outlets of a worktop, at most above its top': 'Tomas de una encimera, a lo más sobre su cara',
  'Switches and socket outlets of new dwellings are no higher than':
    'Interruptores y tomas de viviendas nuevas, no más altos que',
  'Lights that are not made for zone 2 stay from a bath or shower':
    'Las luces que no son para la zona 2 quedan de una tina o ducha a',
  'Head plate': 'Solera superior',
  'Height of lintels': 'Altura de los dinteles',
  'A meter in a loft or under a floor takes': 'Un metro en el desván o bajo el piso toma',
  'A hole takes longer for each further core in the cable, by copper':
    'Un agujero tarda más por cada conductor más del cable, según el cobre',
  'Bit for 1.0 to 2.5 mm² cable': 'Broca para cable de 1.0 a 2.5 mm²',
  'Cables of 1.0 to 2.5 mm² in one hole': 'Cables de 1.0 a 2.5 mm² en un agujero',
  'A hole in a stud stays from the nearest edge, or a steel plate covers it':
    'Un agujero en un montante queda del borde más cercano, o lo cubre una placa',
  'A hole through a joist, of its depth at most': 'Un agujero en una viga, de su altura a lo más',
  'Cable through a joist stays from its top and bottom, or is protected':
    'El cable que cruza una viga queda de arriba y de abajo, o va protegido',
  'A hole through a head plate, of its width at most': 'Un agujero en la solera, de su ancho a lo más',
  'A meter of 1.5 mm² core costs': 'Un metro de conductor de 1.5 mm² cuesta',
  'A new drum has': 'Un tambor nuevo tiene',
  'Room that stays behind what is deepest': 'Lugar que queda detrás de lo más hondo',
  'Cores that go into one terminal together, at most': 'Conductores que entran juntos en un borne, a lo más',
  'A connector takes': 'Un conector ocupa',
  'Socket outlets on a spur that is not fused, at most': 'Tomas en un ramal sin fusible, a lo más',
  'Cable less deep than this lies in a safe zone and is RCD protected':
    'El cable menos hondo que esto va en zona segura y con diferencial',
  'Safe zone along the top of a wall and in its corners':
    'Zona segura a lo largo de lo alto de un muro y en sus rincones',
  'Walls are framed with metal: RCD at any depth':
    'Muros con armazón de metal: diferencial a cualquier profundidad',
  'Two-way switching': 'Conmutación desde dos lugares',
  'Gangs of a plate are marked': 'Los módulos de una placa se marcan',
  'Plates are drawn': 'Las placas se dibujan',
  'Insulation resistance, at least': 'Resistencia de aislamiento, al menos',
  'Insulation is tested with': 'El aislamiento se prueba con',
};

export const BRITISH_PATTERNS: readonly (readonly [RegExp, (...parts: string[]) => string])[] = [
  [/^Back box (\d+) mm, (\d) gang$/, (mm, gangs) => `Caja empotrada ${mm} mm, ${gangs} módulos`],
  [/^Dry-lining box (\d+) mm, (\d) gang$/, (mm, gangs) => `Caja para placa ${mm} mm, ${gangs} módulos`],
  [/^Switch plate, (\d) gang$/, (gangs) => `Placa de ${gangs} interruptores`],
  [/^(\d+) A connector block$/, (amps) => `regleta de ${amps} A`],
  [/^Inside area of conduit, (\d+) mm$/, (mm) => `Área interior de conducto de ${mm} mm`],
  [/^Largest MCB on a ring of (.+) mm²$/, (mm2) => `Automático más grande en un anillo de ${mm2} mm²`],
  [/^Largest MCB on (.+) mm² copper$/, (mm2) => `Automático más grande en cobre de ${mm2} mm²`],
  [/^(.+) mm² flat cable, clipped direct$/, (mm2) => `Cable plano de ${mm2} mm², grapado directo`],
  [/^Resistance of a (.+) mm² core at 20 °C$/, (mm2) => `Resistencia de un conductor de ${mm2} mm² a 20 °C`],
  [/^Area of a (.+) mm² core$/, (mm2) => `Área de un conductor de ${mm2} mm²`],
];
