import type { Messages } from '../messages';

export const SPANISH_MESSAGES: Messages = {};
