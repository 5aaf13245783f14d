import { JURISDICTIONS } from '../../rulebook/jurisdictions.js';
import { saidIn } from '../../vocabulary/said-in.js';
import { BRITAIN, BRITISH_PATTERNS } from './told-britain.js';
import { CANADA } from './told-canada.js';

/** Nombres y textos del reglamento y del catálogo, por su inglés. */
const TEXTS: Readonly<Record<string, string>> = {
  // Imágenes.
  'This file is empty.': 'Este archivo está vacío.',
  'This is a HEIC picture, which most browsers do not draw: let the phone’s camera write JPEG (“most compatible”), or take the photo from here.':
    'Es una foto HEIC, que casi ningún navegador muestra: haga que la cámara del teléfono escriba JPEG (“más compatible”) o tome la foto desde aquí.',
  'This is no picture that can be kept: a PNG, JPEG or WebP is. Its name does not matter, what is in it does.':
    'Esto no es una imagen que se pueda guardar: lo es un PNG, JPEG o WebP. No importa su nombre, sino lo que tiene.',
  'This is another picture than the one that was named.': 'Esta es otra imagen que la que se nombró.',
  'The pictures of this crew take all the room that there is for them: this one was not kept.':
    'Las imágenes de esta cuadrilla ocupan todo el lugar que hay para ellas: esta no se guardó.',
  // Entrar, y lo que puede cambiar quién.
  'The run had been taken out of the plan meanwhile. It stands again, because it is in the wall.':
    'Mientras tanto habían quitado la corrida del plan. Vuelve a estar, porque está en el muro.',
  'The crew, the name or the password is not right.':
    'La cuadrilla, el nombre o la contraseña no son correctos.',
  'Too many tries. Wait a quarter of an hour, or let a lead pair this device.':
    'Demasiados intentos. Espere un cuarto de hora, o deje que un encargado empareje este aparato.',
  'This code opens nothing: it was used, it is over, or it is another one. Ask for a new one.':
    'Este código no abre nada: ya se usó, se venció o es otro. Pida uno nuevo.',
  'This name cannot be picked with this code. Ask a lead.':
    'Este nombre no se puede elegir con este código. Pregunte a un encargado.',
  'This password is one of those that are tried first. Take another: a few words in a row are easy to keep in mind.':
    'Esta contraseña es de las que se prueban primero. Tome otra: unas palabras seguidas son fáciles de recordar.',
  'Only a lead of the crew may change this.': 'Solo un encargado de la cuadrilla puede cambiar esto.',
  'You may read this, not change it.': 'Puede leer esto, no cambiarlo.',
  'Whoever made this has not signed in on this device.': 'Quien hizo esto no ha entrado en este aparato.',
  'Nobody is signed in on this device.': 'Nadie ha entrado en este aparato.',
  'A sign-in name is 2 to 80 letters, figures, dots or dashes.':
    'El nombre para entrar tiene de 2 a 80 letras, cifras, puntos o guiones.',
  'A password has at least 10 characters.': 'Una contraseña tiene al menos 10 caracteres.',
  'A crew has a lead: make somebody else one first.':
    'Una cuadrilla tiene un encargado: nombre primero a otra persona.',
  'This file is too large to be a hand-over.': 'Este archivo es demasiado grande para ser una entrega.',
  'This is no hand-over file, or it was cut off on its way.':
    'Esto no es un archivo de entrega, o se cortó por el camino.',
  'This hand-over file cannot be read: ask for it to be made anew.':
    'Este archivo de entrega no se puede leer: pida que lo hagan de nuevo.',
  'This was handed over by another crew.': 'Esto lo entregó otra cuadrilla.',
  'This device does not know the one that handed it over. Open the list of devices once where there is a network, and try again.':
    'Este aparato no conoce al que lo entregó. Abra una vez la lista de aparatos donde haya red e inténtelo otra vez.',
  'The device that handed this over has been locked out of the crew.':
    'El aparato que entregó esto fue dejado fuera de la cuadrilla.',
  'United States': 'Estados Unidos',
  // Cajas.
  'Plastic round': 'Plástica redonda',
  'Fan-rated round': 'Redonda para ventilador',
  Panel: 'Panel',
  'Buried point (cable end, no box yet)': 'Punto enterrado (punta de cable, todavía sin caja)',
  'Low-voltage bracket': 'Soporte de baja tensión',
  none: 'ninguna',
  tabs: 'lengüetas',
  internal: 'internas',
  external: 'externas',
  device: 'dispositivos',
  ceiling: 'techo',
  square: 'cuadrada',
  masonry: 'mampostería',
  cast: 'fundida',
  panel: 'panel',
  'buried point': 'punto enterrado',
  'low voltage': 'baja tensión',
  'marked in the box': 'marcado en la caja',
  'the house’s own catalogue': 'catálogo propio de la casa',
  'Depth of the studs of inner walls': 'Fondo de los montantes de muros interiores',
  'Depth of the studs of outer walls': 'Fondo de los montantes de muros exteriores',
  'Depth of the studs of walls with pipes in them': 'Fondo de los montantes de muros con tubos',
  'Studs stand on center': 'Montantes a cada (entre centros)',
  'The crew staples within, of a box': 'La cuadrilla engrapa a no más de, desde una caja',
  'The crew staples every': 'La cuadrilla engrapa cada',
  'Bored holes no farther apart count as holding it.': 'Agujeros no más separados cuentan como sujeción.',
  // Caminos de los cables.
  'Ways of cables': 'Caminos de los cables',
  Boring: 'Perforar',
  'Cables together': 'Cables juntos',
  'Boxes and the finish': 'Cajas y acabado',
  'The front of a box is behind the finish at most':
    'El frente de una caja queda detrás del acabado cuando más',
  'Behind board or tile. Behind wood or other finish that burns: not at all, which nobody can tell from a plan.':
    'Detrás de tablero o azulejo. Detrás de madera u otro acabado que arde: nada, lo que nadie ve en un plano.',
  'A box stands out from the studs, where nobody has said how far':
    'Una caja sale de los montantes, donde nadie ha dicho cuánto',
  'As boxes are marked for board of ½ in.': 'Como las cajas están marcadas para tablero de ½ in.',
  'More than two cables of sheathed wire. In 2017: Table 310.15(B)(3)(a).':
    'Más de dos cables con forro. En 2017: tabla 310.15(B)(3)(a).',
  'Electronic switches without a neutral on one circuit':
    'Interruptores electrónicos sin neutro en un circuito',
  'Electronic switches without a neutral on one feeder':
    'Interruptores electrónicos sin neutro en un alimentador',
  'Where an old switch is replaced and finish would have to be opened.':
    'Donde se cambia un interruptor viejo y habría que abrir el acabado.',
  'A bonded neutral bar is not counted.': 'No cuenta una barra de neutro unida a tierra.',
  'replacement of a switch that was there before the rule, where finish would have to be opened':
    'cambio de un interruptor anterior a la regla, donde habría que abrir el acabado',
  'Ways go': 'Los caminos van',
  'as is least work and cable': 'como cueste menos trabajo y cable',
  'in the wall where they can': 'por el muro donde se pueda',
  'up and over': 'por arriba',
  'What the other way weighs stands below.': 'Lo que pesa el otro camino está abajo.',
  'To stay in the wall: each plate weighs': 'Para quedarse en el muro: cada solera pesa',
  'To go up and over: each stud weighs': 'Para ir por arriba: cada montante pesa',
  'Studs are drilled': 'Los montantes se perforan',
  'at the height below': 'a la altura de abajo',
  'at the height of receptacles': 'a la altura de las tomas',
  'along the top': 'por arriba',
  'Height of a row of holes': 'Altura de una fila de agujeros',
  '18 to 24 in.': 'De 18 a 24 pulg.',
  'Height of a row of holes over switches': 'Altura de una fila de agujeros sobre los interruptores',
  'A row along the top, below the top plate': 'Una fila por arriba, bajo la solera superior',
  'Top plates together': 'Soleras superiores juntas',
  'Two of 1½ in.': 'Dos de 1½ pulg.',
  'Height of headers': 'Altura de los dinteles',
  'They block what goes over an opening.': 'Cierran el paso por encima de un vano.',
  'Joists stand on center': 'Viguetas a cada (entre centros)',
  'Height of joists': 'Altura de las viguetas',
  '2 × 10: 9¼ in.': '2 × 10: 9¼ pulg.',
  'Across joists in an attic': 'A través de las viguetas de un ático',
  'over them': 'por encima',
  'through holes': 'por agujeros',
  'Within 6 ft of a scuttle, or throughout where there are stairs, guard strips protect what runs over them (320.23, 334.23; from memory).':
    'A menos de 6 pies de una escotilla, o en todo el ático donde hay escalera, tiras de protección guardan lo que pasa por encima (320.23, 334.23; de memoria).',
  'Minutes for a hole through a solid corner': 'Minutos por agujero en una esquina maciza',
  'Minutes for a hole through a joist': 'Minutos por agujero en una vigueta',
  'Minutes for a hole through a header that may be bored':
    'Minutos por agujero en un dintel que se puede perforar',
  'Minutes for each time up to a ceiling or down below': 'Minutos por cada subida al techo o bajada',
  'Minutes for a nail plate': 'Minutos por placa',
  'A foot in an attic or crawl space takes': 'Un pie en un ático o bajo el piso toma',
  'A hole takes longer for each further 14 AWG conductor in the cable, by copper':
    'Un agujero tarda más por cada conductor 14 AWG de más en el cable, según su cobre',
  'Bit for 14 and 12 AWG cable': 'Broca para cable 14 y 12 AWG',
  'Bit for larger cable': 'Broca para cable más grande',
  'Cables of 14 or 12 AWG in one hole': 'Cables 14 o 12 AWG en un agujero',
  'A hole stays from the nearest edge, or a steel plate covers it':
    'Un agujero queda a esta distancia del borde, o lo cubre una placa de acero',
  'To the edge of the hole. Along a framing member too: 300.4(D).':
    'Hasta el borde del agujero. También a lo largo de un miembro: 300.4(D).',
  'Cables in one hole that is sealed, without derating':
    'Cables en un agujero sellado, sin reducir la capacidad',
  'Each hole through a plate or floor is sealed against fire spread.':
    'Cada agujero por una solera o un piso se sella contra el fuego.',
  'A hole through a bearing stud, of its depth at most':
    'Agujero en un montante de carga, de su fondo a lo más',
  'A hole through another stud, of its depth at most': 'Agujero en otro montante, de su fondo a lo más',
  'Wood left beside a hole in a stud': 'Madera que queda junto a un agujero en un montante',
  'Studs of inner walls are taken': 'Los montantes de muros interiores se toman',
  'as bearing': 'como de carga',
  'as not bearing': 'como sin carga',
  'A hole through a solid joist, of its depth at most':
    'Agujero en una vigueta maciza, de su altura a lo más',
  'A hole through a solid joist stays from top and bottom':
    'Un agujero en una vigueta maciza queda a esta distancia de arriba y abajo',
  'A hole through a top plate, of its width at most without a steel tie':
    'Agujero en una solera superior, de su ancho a lo más sin amarre de acero',
  // Bosquejo de la casa.
  'Light with its own splice box': 'Luz con su propia caja de empalmes',
  'Power comes in at': 'La corriente entra por',
  'the switch': 'el interruptor',
  'the light': 'la luz',
  'Living room and office': 'Sala y oficina',
  'a ceiling light': 'una luz de techo',
  'a switched half of a receptacle': 'media toma con interruptor',
  'Paddle fans in bedrooms and the family room': 'Ventiladores de techo en recámaras y sala familiar',
  'fan and light on two switches': 'ventilador y luz con dos interruptores',
  'a light only': 'solo una luz',
  Baths: 'Baños',
  'each on 20 A of its own, with its lights': 'cada uno en sus propios 20 A, con sus luces',
  'receptacles of all on one 20 A': 'las tomas de todos en un 20 A',
  'Points on one lighting circuit at most': 'Puntos en un circuito de luces, a lo más',
  'no limit': 'sin límite',
  'Lights and receptacles of rooms': 'Luces y tomas de los cuartos',
  'on the same circuits': 'en los mismos circuitos',
  'on circuits apart': 'en circuitos aparte',
  'Rooms of which the 15 and 20 A circuits have arc-fault protection':
    'Cuartos cuyos circuitos de 15 y 20 A llevan protección de arco',
  'All receptacles of the kitchen, not those of the counter alone, have ground-fault protection':
    'Todas las tomas de la cocina, no solo las de la cubierta, llevan protección de falla a tierra',
  'Ground-fault protection is asked of receptacles up to':
    'La protección de falla a tierra se pide a tomas de hasta',
  'General lighting load for each square foot': 'Carga general de alumbrado por pie cuadrado',
  'Cable from box to box in a room': 'Cable de caja a caja en un cuarto',
  'Cable from a room to the next': 'Cable de un cuarto al siguiente',
  'More for each room passed on the way': 'Más por cada cuarto por el que pasa',
  'Sheath that shows inside the box': 'Forro que se ve dentro de la caja',
  'Droop, of the way': 'Holgura, del camino',
  'Droop at least': 'Holgura al menos',
  'Tail at a light that is finished later': 'Cola en una luz que se termina después',
  'Two to three feet.': 'De dos a tres pies.',
  'Tail at the panel': 'Cola en el panel',
  'Four to six feet, by the height of the panel.': 'De cuatro a seis pies, según la altura del panel.',
  'Of that, as the crew really pulls it': 'De eso, como la cuadrilla jala de verdad',
  'What the log says is offered on the pull sheet.': 'Lo que dice el registro se ofrece en la hoja de jalar.',
  'Cut in steps of': 'Cortar en pasos de',
  'From a ceiling to the floor above it': 'De un techo al piso de arriba',
  'Stapled and plated is ticked': 'Engrapado y con placas se marca',
  'by room, when all of it is in': 'por cuarto, cuando todo está puesto',
  'by run, as you go': 'por tramo, sobre la marcha',
  'An hour of the crew costs': 'Una hora de la cuadrilla cuesta',
  'In the crew’s money.': 'En la moneda de la cuadrilla.',
  'A foot of 14 AWG conductor costs': 'Un pie de conductor 14 AWG cuesta',
  'Where the crew has no price.': 'Donde la cuadrilla no tiene precio.',
  'Minutes for each run': 'Minutos por cada tramo',
  'Minutes for each foot': 'Minutos por cada pie',
  'The next larger box costs': 'La caja siguiente más grande cuesta',
  'From stud to stud': 'De montante a montante',
  'For holes, until the framing is known.': 'Para los agujeros, mientras no se conozca la estructura.',
  'Minutes for a hole through a stud': 'Minutos por agujero en un montante',
  'With its plate, where it needs one.': 'Con su placa, donde la necesita.',
  'Minutes for a hole through a plate': 'Minutos por agujero en una solera',
  'With its seal.': 'Con su sello.',
  'Minutes for a conductor at each end': 'Minutos por conductor en cada extremo',
  'Stripped, spliced and folded.': 'Pelado, empalmado y doblado.',
  'Receptacles as one way round': 'Tomas en una sola vuelta',
  'Through the rooms in order, with few trips through the attic.':
    'Por los cuartos en orden, con pocos viajes por el ático.',
  'A trip through the attic, a room out of order or a branch of the chain weighs':
    'Un viaje por el ático, un cuarto fuera de orden o una rama de la cadena pesa',
  'At most two power cables in a receptacle box': 'A lo más dos cables de corriente en una caja de toma',
  'A third power cable in a receptacle box weighs': 'Un tercer cable de corriente en una caja de toma pesa',
  'Switched lights are fed': 'Las luces con interruptor se alimentan',
  'wherever it is cheaper': 'por donde sea más barato',
  'at the switch': 'en el interruptor',
  'at the light': 'en la luz',
  'A control that is fed at the other end weighs': 'Un control alimentado por el otro extremo pesa',
  'Receptacles apart from lights': 'Tomas aparte de las luces',
  'Power from a light or switch to a receptacle, or back, weighs':
    'Corriente de una luz o un interruptor a una toma, o al revés, pesa',
  'Two home runs as one, with a shared neutral': 'Dos alimentadores en uno, con neutro compartido',
  'Breakers next to each other, on different legs and with a common disconnect (210.4, from memory).':
    'Interruptores juntos, en fases distintas y con desconexión común (210.4, de memoria).',
  'A shared home run weighs': 'Un alimentador compartido pesa',
  'Its common disconnect, and a neutral that no device may carry.':
    'Su desconexión común, y un neutro que ningún dispositivo puede llevar.',
  'where it is cheaper': 'donde salga más barato',
  never: 'nunca',
  'A room is left from the box nearest the next': 'Se sale de un cuarto por la caja más cercana al siguiente',
  'A room that is left from another box weighs': 'Un cuarto del que se sale por otra caja pesa',
  'Planning pulls': 'Planear los tramos',
  'Cable that is lost in cutting': 'Cable que se pierde al cortar',
  'Nail plates for each run': 'Placas por cada tramo',
  'Holes that a tube of seal closes': 'Hoyos que tapa un tubo de sellador',
  'A new coil has': 'Un rollo nuevo tiene',
  'Reels have 500 or 1,000 ft.': 'Los carretes tienen 500 o 1,000 pies.',
  'Take-off': 'Lista de material',
  'An offcut is kept from': 'Un sobrante se guarda desde',
  'A shorter one is scrap, but for pigtails.': 'Uno más corto es desecho, salvo para colas.',
  'Length to cut': 'Largo a cortar',
  Pulling: 'Jalar',
  Reels: 'Rollos',
  'Cable of a home run': 'Cable de un tramo al panel',
  'More for each floor between': 'Más por cada piso de por medio',
  // Dónde van las tomas.
  'Rooms with receptacles along their walls': 'Cuartos con tomas a lo largo de sus muros',
  'No point along a wall is farther from a receptacle than':
    'Ningún punto de un muro queda más lejos de una toma que',
  'Walls that count, from': 'Muros que cuentan, desde',
  'A receptacle higher than this serves no wall': 'Una toma más alta que esto no sirve a un muro',
  'No point of a counter is farther from a receptacle than':
    'Ningún punto de una cubierta queda más lejos de una toma que',
  'Counters that count, from': 'Cubiertas que cuentan, desde',
  'Receptacles of a counter, at most above its top': 'Tomas de una cubierta, a lo más arriba de ella',
  'Receptacles of islands and peninsulas': 'Tomas de islas y penínsulas',
  'one each, from 24 × 12 in on': 'una cada una, desde 24 × 12 in',
  'one for the first 9 ft², one for every further 18 ft²':
    'una por los primeros 9 ft², una por cada 18 ft² más',
  'none, but a way to bring one there': 'ninguna, pero un paso para llevarla',
  'A receptacle beside a basin, from its edge at most': 'Una toma junto a un lavabo, a lo más de su orilla',
  'Halls that have a receptacle, from': 'Pasillos que llevan una toma, desde',
  'Foyers with a receptacle in their walls, larger than': 'Recibidores con tomas en sus muros, mayores de',
  'Walls of a foyer that have a receptacle, from': 'Muros de un recibidor que llevan una toma, desde',
  'Floor of one vehicle bay': 'Piso de un cajón de auto',
  'Receptacles outside: front and back': 'Tomas afuera: al frente y atrás',
  receptacles: 'tomas',
  switches: 'interruptores',
  'Rooms with a light on a switch': 'Cuartos con una luz con interruptor',
  'Switch locations of a flight of stairs': 'Interruptores de una escalera',
  'The grip of a switch is at most': 'La palanca de un interruptor está a lo más a',
  'Receptacles stay from a tub or shower, sideways':
    'Las tomas se alejan de una tina o regadera, a los lados',
  'Hung lights and paddle fans stay from a tub or shower':
    'Luces colgantes y ventiladores se alejan de una tina o regadera',
  'And up to this height over it': 'Y hasta esta altura sobre ella',
  'Order of the switches in a box': 'Orden de los interruptores en una caja',
  'the light reached first, then the fan': 'primero la luz, luego el ventilador',
  'as it comes': 'como caiga',
  'A switch box from the side of a doorway': 'Una caja de apagadores, del lado de una puerta',
  'What hangs outside from the side of a door': 'Lo que cuelga afuera, del lado de una puerta',
  'A light over a sink, out from its wall': 'Una luz sobre un fregadero, desde su muro',
  'Data from the receptacle of a screen': 'Datos, desde la toma de una pantalla',
  'Height of a ceiling, while nobody has said it': 'Altura de un techo, mientras nadie la haya dicho',
  'Width of a panel': 'Ancho de un tablero',
  'Top of a panel over the floor': 'Parte alta de un tablero sobre el piso',
  'A box stays from a doorway or window': 'Una caja se aleja de una puerta o ventana',
  'Clear in front of a panel, wide': 'Libre al frente de un panel, a lo ancho',
  'Clear in front of a panel, deep': 'Libre al frente de un panel, a lo hondo',
  // Cuartos.
  foyer: 'recibidor',
  kitchen: 'cocina',
  dining: 'comedor',
  living: 'sala',
  family: 'sala familiar',
  bedroom: 'recámara',
  bath: 'baño',
  'water closet': 'medio baño',
  hall: 'pasillo',
  stairs: 'escalera',
  laundry: 'lavandería',
  closet: 'clóset',
  office: 'oficina',
  garage: 'cochera',
  porch: 'porche',
  utility: 'cuarto de servicio',
  attic: 'ático',
  basement: 'sótano',
  outdoors: 'exterior',
  other: 'otro',
  // Para qué es un tramo.
  power: 'corriente',
  leg: 'retorno',
  travelers: 'viajeros',
  interconnect: 'interconexión',
  // Dispositivos.
  Switch: 'Interruptor',
  'Two switches in one gang': 'Dos interruptores en un lugar',
  Dimmer: 'Atenuador',
  'Smart switch (needs neutral)': 'Interruptor inteligente (necesita neutro)',
  'Timer (needs neutral)': 'Temporizador (necesita neutro)',
  'Duplex receptacle': 'Tomacorriente doble',
  'Single receptacle': 'Tomacorriente sencillo',
  'GFCI receptacle': 'Tomacorriente GFCI',
  Light: 'Luz',
  Fan: 'Ventilador',
  'Fan with light': 'Ventilador con luz',
  'Smoke alarm': 'Alarma de humo',
  'Appliance connection': 'Conexión de aparato',
  '240 V receptacle': 'Tomacorriente de 240 V',
  '240 V receptacle with neutral (range, dryer)': 'Tomacorriente de 240 V con neutro (estufa, secadora)',
  '240 V appliance connection': 'Conexión de aparato de 240 V',
  // Conectores.
  'small twist-on': 'conector de rosca chico',
  'medium twist-on': 'conector de rosca mediano',
  'large twist-on': 'conector de rosca grande',
  'extra-large twist-on': 'conector de rosca extra grande',
  'grounding twist-on with pass-through hole': 'conector de rosca de tierra con hoyo',
  // De dónde viene.
  'common practice': 'práctica común',
  'common practice, from memory': 'práctica común, de memoria',
  'published, from memory': 'publicado, de memoria',
  school: 'escuela',
  // Motivos para no llevar neutro.
  'raceway to the box is large enough to add a neutral': 'el tubo a la caja da para agregar un neutro',
  'box can be reached without taking finish off': 'se llega a la caja sin quitar acabado',
  'snap switch with integral enclosure': 'interruptor con caja integral',
  'lighting is controlled automatically': 'la luz se controla sola',
  'switch controls a receptacle': 'el interruptor prende un tomacorriente',
  // Reglas.
  'Conductor that enters and is spliced or ends': 'Conductor que entra y se empalma o termina',
  'Conductor that passes through unbroken': 'Conductor que pasa sin cortar',
  'Unbroken loop long enough for two free ends': 'Vuelta sin cortar con largo para dos puntas libres',
  'Internal cable clamps, any number': 'Mordazas internas, cuantas sean',
  'Count the flexible tabs of a multi-gang plastic box as clamps':
    'Contar como mordazas las lengüetas de una caja plástica de varios lugares',
  'Luminaire stud': 'Perno de luminaria',
  Hickey: 'Hickey',
  'Device yoke, of the largest conductor connected to it':
    'Yugo de dispositivo, por el conductor más grande conectado a él',
  'Device wider than 2 in, for each gang it takes': 'Dispositivo de más de 2 in, por cada lugar que ocupa',
  'Equipment grounds covered by the first allowance (0 means all)':
    'Tierras de equipo que cubre la primera cuenta (0 son todas)',
  'First allowance for equipment grounds': 'Primera cuenta por tierras de equipo',
  'Each equipment ground beyond those': 'Cada tierra de equipo además de esas',
  'Additional set of isolated equipment grounds': 'Juego adicional de tierras aisladas',
  'Terminal block, of the largest conductor on it': 'Bloque de terminales, por su conductor más grande',
  'Fixture wires from a canopy that need not be counted': 'Alambres de campana que no hace falta contar',
  'Free conductor from where it leaves the sheath': 'Conductor libre desde donde sale del forro',
  'A neutral at switches of lights in baths, halls, stairs and habitable rooms':
    'Un neutro en los interruptores de luz de baños, pasillos, escaleras y cuartos habitables',
  'Rooms in which receptacles have ground-fault protection':
    'Cuartos donde los tomacorrientes llevan protección de falla a tierra',
  'Every ceiling box of a habitable room where a fan could hang is made for a fan':
    'Toda caja de techo de cuarto habitable donde podría colgarse un ventilador es para ventilador',
  'Supply conductor of a loop to a switch that carries its neutral along':
    'Conductor de entrada de una bajada a interruptor que lleva su neutro',
  'What is fed on from a feed-through GFCI receptacle': 'Lo que sigue después de un tomacorriente GFCI',
  'Switch positions that mean off': 'Posiciones de interruptor que son apagado',
  'Lengths and volumes are shown in': 'Largos y volúmenes se muestran en',
  'Hot wires in raceway': 'Vivos en tubo',
  'Switch legs in raceway': 'Retornos en tubo',
  'Travelers in raceway': 'Viajeros en tubo',
  'Part of a raceway that one wire may fill': 'Parte de un tubo que puede llenar un alambre',
  'Part of a raceway that two wires may fill': 'Parte de un tubo que pueden llenar dos alambres',
  'Part of a raceway that three or more may fill': 'Parte de un tubo que pueden llenar tres o más',
  'Cables that one entry slot takes': 'Cables que toma una entrada',
  'Only one cable under each clamp or tab': 'Un solo cable bajo cada mordaza o lengüeta',
  'Which slot a cable enters by': 'Por qué entrada llega un cable',
  'Conductors trimmed past the face of the box': 'Conductores cortados después del frente de la caja',
  'Length of a pigtail': 'Largo de una colita',
  'Strip for a hook round a screw': 'Pelado para gancho en tornillo',
  'Strip for a twist-on splice': 'Pelado para empalme de rosca',
  'Strip for a twist-on splice, short school': 'Pelado para empalme de rosca, escuela corta',
  'Strip before pre-twisting and clipping back': 'Pelado antes de torcer y cortar',
  'Strip left after clipping back': 'Pelado que queda después de cortar',
  'Strip for back-clamp and push-in terminals': 'Pelado para terminales de mordaza y de empuje',
  'Strip for clamps: breakers, bars, 240 V receptacles':
    'Pelado para mordazas: breakers, barras, tomacorrientes de 240 V',
  'Switch legs in the box': 'Retornos en la caja',
  'Strip for splices': 'Pelado para empalmes',
  'How conductors land on devices': 'Cómo se conectan los conductores a los dispositivos',
  'Hot to several devices': 'Vivo a varios dispositivos',
  'Twist conductors before the connector goes on': 'Torcer los conductores antes del conector',
  'A capped neutral pigtail at every switch that needs none':
    'Una colita de neutro tapada en cada interruptor que no la necesita',
  'Connector for splices': 'Conector para empalmes',
  'Strip the sheath': 'Pelar el forro',
  'Conductor for the fan where fan and light share a cable':
    'Conductor del ventilador donde ventilador y luz comparten cable',
  'Cable held within, of a box with clamps': 'Cable sujeto antes de, de una caja con mordazas',
  'Cable held within, of a single-gang nonmetallic box without clamps':
    'Cable sujeto antes de, de una caja no metálica de un lugar sin mordazas',
  'Cable held at least every': 'Cable sujeto al menos cada',
  'Height of switch boxes, over the finished floor':
    'Altura de cajas de interruptor, sobre el piso terminado',
  'Height of switch boxes is measured to': 'La altura de cajas de interruptor se mide a',
  'Height of receptacles, over the finished floor': 'Altura de tomacorrientes, sobre el piso terminado',
  'Height of receptacles is measured to': 'La altura de tomacorrientes se mide a',
};

const MATERIALS: Readonly<Record<string, string>> = {
  plastic: 'plástica',
  fiberglass: 'de fibra de vidrio',
  metal: 'metálica',
};
const SHAPES: Readonly<Record<string, string>> = {
  octagon: 'octagonal',
  square: 'cuadrada',
  device: 'de dispositivo',
  masonry: 'de mampostería',
  cast: 'fundida',
};
const places = (count: string): string => (count === '1' ? '1 lugar' : `${count} lugares`);

/** Textos que llevan números. */
const PATTERNS: readonly (readonly [RegExp, (...parts: string[]) => string])[] = [
  [/^Plastic, (\d) gang$/, (gangs) => `Plástica, ${places(gangs!)}`],
  [/^(\d)-port lever connector$/, (ports) => `conector de palanca de ${ports} bocas`],
  [
    /^Metal (octagon|square|device|masonry|cast) (.+)$/,
    (shape, rest) =>
      `Metálica ${SHAPES[shape!]} ${rest!
        .replace(/(\d) gang/, (_, gangs: string) => places(gangs))
        .replace('fan-rated', 'para ventilador')
        .replace('single', '1 lugar')
        .replace(/(\S+) deep/, '$1 de fondo')}`,
  ],
  [
    /^Ring for 4 in square, (\d) gang, (.+) raised$/,
    (gangs, raised) => `Anillo para cuadrada de 4 in, ${places(gangs!)}, ${raised} de alto`,
  ],
  [
    /^Ring for 102 mm square, (\d) gang, (.+) raised$/,
    (gangs, raised) => `Anillo para cuadrada de 102 mm, ${places(gangs!)}, ${raised} de alto`,
  ],
  [
    /^Extension, (.+) mm (octagon|square), (.+) deep$/,
    (size, shape, deep) => `Extensión, ${SHAPES[shape!]} de ${size} mm, ${deep} de fondo`,
  ],
  [
    /^Extension, (.+) in (octagon|square), (.+) deep$/,
    (size, shape, deep) => `Extensión, ${SHAPES[shape!]} de ${size} in, ${deep} de fondo`,
  ],
  [
    /^(plastic|fiberglass|metal) (\S+) as marked$/,
    (material, kind) =>
      `Caja ${MATERIALS[material!]} (${spanishText(kind!.replace('-', ' '))}), como está marcada`,
  ],
  [/^marked volume, (.+)$/, (source) => `volumen marcado, ${source}`],
  [/^Volume for each (\d+) AWG conductor$/, (awg) => `Volumen por cada conductor ${awg} AWG`],
  [/^Largest breaker on (\d+) AWG copper$/, (awg) => `Breaker más grande en cobre ${awg} AWG`],
  [/^Area of a (\d+) AWG THHN wire$/, (awg) => `Área de un alambre THHN ${awg} AWG`],
  [
    /^(\d+) AWG copper at 90 °C, from which cables together are derated$/,
    (awg) => `Cobre ${awg} AWG a 90 °C, de donde se reduce con cables juntos`,
  ],
  [
    /^Cables together in insulation, from (\d+) current-carrying conductors on, carry$/,
    (count) => `Cables juntos en aislante llevan, desde ${count} conductores con corriente`,
  ],
  [/^Inside area of EMT, (.+)$/, (size) => `Área interior de EMT de ${size}`],
  [/^(.+) EMT$/, (size) => `EMT de ${size}`],
  [/^(\d+ mm) conduit$/, (size) => `tubo de ${size}`],
];

const ALL: Readonly<Record<string, string>> = { ...BRITAIN, ...CANADA, ...TEXTS };

/** Lo que se tomó de un país a otro con otras palabras, por lo que allá dice. */
const takenOver = (texts: readonly string[]): ReadonlyMap<string, string> =>
  new Map(
    JURISDICTIONS.filter(({ saidHere }) => saidHere.length > 0).flatMap(({ saidHere }) =>
      texts.map((text) => [saidIn(saidHere, text), text] as const),
    ),
  );

/** Por lo que dice en otro país. */
let elsewhere: ReadonlyMap<string, string> | undefined;

/** Un texto del reglamento o del catálogo; el mismo donde no hay otro. */
export function spanishText(text: string): string {
  if (Object.hasOwn(ALL, text)) return ALL[text]!;
  const there = (elsewhere ??= takenOver(Object.keys(ALL))).get(text);
  if (there !== undefined) return ALL[there]!;
  for (const [pattern, write] of [...PATTERNS, ...BRITISH_PATTERNS]) {
    const found = pattern.exec(text);
    if (found) return write(...found.slice(1));
  }
  return text;
}
