/** The one crew of this machine, until people sign in. Every query already names its crew. */
export const LOCAL_CREW = '00000000-0000-4000-8000-00000000c0de';
