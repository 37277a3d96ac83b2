/** An error as JSON-RPC 2.0 (section 5.1) gives it back. */
export class RpcError extends Error {
  constructor(
    readonly code: number,
    message: string,
    readonly field: string | null = null,
  ) {
    super(message);
  }
}

/** Under whose token something is called: a page by its name, or a person. */
export type Identity = { kind: 'page'; name: string } | { kind: 'person' };

/** Methods by name; each is told under whose token it was called. */
export type RpcMethods = Record<string, (params: Record<string, unknown>, identity: Identity) => unknown>;
