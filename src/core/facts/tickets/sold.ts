/** Purchases so far of one performance, by level id. */
export type Sold = ReadonlyMap<string, number>;
