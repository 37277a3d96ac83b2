/** A picture or a document ready to be sent, under the name that it has there. */
export interface Rendition {
  name: string;
  /** Its media type (RFC 6838); JPEG, where it is not said. */
  type?: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/**
 * What an account is known to hold already, so that nothing is sent or asked for twice: pictures, venues. Kept for
 * good.
 */
export interface KeptThere {
  get(sort: string, key: string): string | null;
  /** All of a sort, by key. */
  all(sort: string): ReadonlyMap<string, string>;
  put(sort: string, key: string, value: string): void;
  /**
   * Lays something on a shelf where others read it: it leaves the house like a request, and may be refused like one.
   */
  shelve(sort: string, key: string, value: string): void;
}
