/** What a hand ticks of the panel end of a home run: its number and the room that it goes to are written on it. */
export const HOME_RUN_STEP = 'home-run-marked';
/** What a hand ticks of a room: every cable is held near its boxes and on its way, flat, and no staple dents a sheath. */
export const SECURED_STEP = 'secured';
