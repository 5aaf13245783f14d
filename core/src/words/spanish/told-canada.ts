/** Nombres y textos que solo tiene el reglamento canadiense, por su inglés. */
export const CANADA: Readonly<Record<string, string>> = {
  'Split receptacles on two circuits of 15 A with a shared neutral serve a counter':
    'Tomacorrientes partidos en dos circuitos de 15 A con neutro común sirven una cubierta',
  'Arc-fault protection is asked of circuits with receptacles alone':
    'Protección contra arco solo en circuitos con tomacorrientes',
  Canada: 'Canadá',
  'Rooms of which the circuits of receptacles have arc-fault protection':
    'Cuartos cuyos circuitos de tomacorrientes llevan protección contra arco',
  'General lighting load for each square meter': 'Carga general de alumbrado por metro cuadrado',
  'Luminaire studs and hickeys, together': 'Pernos de luminaria y hickeys, juntos',
  'Device on one strap': 'Dispositivo en un yugo',
  'A neutral at each switch location of lights': 'Un neutro en cada interruptor de luces',
  'Cable held within, of a box without clamps': 'Cable sujeto a no más de, de una caja sin mordazas',
  'Receptacles outside that are reached from the ground':
    'Tomacorrientes afuera que se alcanzan desde el suelo',
  'A meter in an attic or crawl space takes': 'Un metro en un ático o entrepiso toma',
  'A meter of 14 AWG conductor costs': 'Un metro de conductor 14 AWG cuesta',
  'Minutes for each meter': 'Minutos por metro',
  'Every full pair of insulated connectors': 'Cada par completo de conectores aislados',
  'A device counts by its strap up to a depth of': 'Un dispositivo cuenta por su yugo hasta un fondo de',
  'A deeper device, for each 25.4 mm of its depth': 'Un dispositivo más hondo, por cada 25.4 mm de fondo',
  'Outlets on one circuit of two wires at most': 'Salidas en un circuito de dos hilos, como máximo',
  'Receptacles nearer than this to a basin, tub or shower have ground-fault protection':
    'Tomacorrientes a menos de esto de un lavabo, tina o ducha llevan protección contra falla a tierra',
  'Kitchen counters': 'Cubiertas de la cocina',
  'receptacles of 20 A': 'tomacorrientes de 20 A',
  'split receptacles of 15 A on a cable of three conductors, with one handle':
    'tomacorrientes partidos de 15 A en un cable de tres conductores, con una sola palanca',
  'Split receptacles on one cable at most': 'Tomacorrientes partidos en un cable, como máximo',
  '26-722, from memory, less sure: either is taken.':
    '26-722, de memoria, menos seguro: cualquiera de los dos vale.',
};
