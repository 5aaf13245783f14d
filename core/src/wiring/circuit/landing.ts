/**
 * A short wire from a splice to a terminal; `deviceId` undefined means the box itself. In a panel a breaker is told by its
 * circuit.
 */
export interface Landing {
  readonly deviceId?: string | undefined;
  readonly circuitId?: string | undefined;
  readonly terminal: string;
}
