/** Whose house. */
export interface HouseKey {
  readonly crewId: string;
  readonly houseId: string;
}
