import { OutsideError } from '@/channels/kit/http';
import { channelById } from '@/channels/registry';
import { outsideErrorWords } from '@/core/errands/retry';
import { fail, ok, type Result } from '@/core/base/result';
import { webAddress } from '@/core/base/scalars';
import { putConnection } from '@/store/connections';
import type { House } from '@/house/house';

/**
 * Connects a channel: the credentials are tried before they are kept. Gives the name under which the channel
 * knows us; the error names the field or says what the channel said.
 */
export async function connectChannel(
  house: House,
  channel: string,
  input: { address: string; credentials: Record<string, string> },
  actor: string,
): Promise<Result<string, Record<string, string>>> {
  const { rules, connectionSchema, client } = channelById(channel);
  const address = webAddress.safeParse(input.address.trim().replace(/\/+$/, ''));
  if (!address.success) return fail({ address: 'Write the address as http:// or https:// and the service’s host.' });
  const credentials = connectionSchema.safeParse(input.credentials);
  if (!credentials.success)
    return fail(Object.fromEntries(credentials.error.issues.map((issue) => [String(issue.path[0]), 'Fill this in.'])));
  try {
    const knownAs = await client({ address: address.data, credentials: credentials.data }, house.http).greet();
    putConnection(
      house.db,
      { channel, address: address.data, credentials: credentials.data, knownAs, at: house.clock.now() },
      actor,
    );
    return ok(knownAs);
  } catch (error) {
    if (!(error instanceof OutsideError)) throw error;
    const words =
      error.kind === 'again-later'
        ? 'Nothing answers there. Check the address and that the service runs.'
        : outsideErrorWords[error.kind];
    return fail({
      [error.kind === 'again-later' ? 'address' : 'credentials']: `${rules.name}: ${error.message}. ${words}`,
    });
  }
}
