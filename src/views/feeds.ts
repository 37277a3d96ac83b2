/** A part of the house that a calendar can be of. */
export interface PartOfHouse {
  value: string;
  label: string;
}

/** A calendar that can be subscribed to. */
export interface CalendarFeed {
  id: string;
  name: string;
  /** The part of the house that it is of. */
  holds: string;
  address: string;
  /** Everyone may have its address. */
  forAll: boolean;
}
