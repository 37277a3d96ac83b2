import { asks, asksAgain } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { recordIdSchema } from '@/core/base/ids';
import { fail, ok, type Result } from '@/core/base/result';
import { outsideErrorWords } from '@/core/errands/retry';
import { trialChecks, trialLine, trialWish, type TrialCheck } from '@/core/listing/trial';
import { isOutsideError } from '@/channels/kit/http';
import { clientOf } from '@/house/clients';
import { onOwnBehalf } from '@/house/way-out';
import { channelById, type House } from '@/house/house';
import { surveyById } from '@/house/survey';
import { transaction } from '@/store/database';
import { listingById } from '@/store/listings';
import { putTick } from '@/store/sheets';
import { markStale } from '@/store/pulse';

const inputSchema = z.object({ recordId: recordIdSchema, channel: z.string().max(40) });

/**
 * Buys one ticket where it is sold, to try it: what the buyer pays, the hour and the letter are held against the facts.
 * It is marked as a trial there, paid back at once, and counted nowhere. Where all is right it is kept on the sheet,
 * with a name.
 */
export async function tryPurchase(house: House, doer: Doer, input: unknown): Promise<Result<TrialCheck[], string>> {
  asks(doer, 'tryPurchase');
  const { recordId, channel: at } = inputSchema.parse(input);
  const channel = channelById(house, at);
  const surveyed = surveyById(house, recordId);
  const surveyedListing = surveyed?.survey.listings.find(
    (listing) => listing.channel === at && listing.state.sent !== null,
  );
  const listing = surveyedListing && listingById(house.db, surveyedListing.id);
  if (!channel || !surveyed) return fail('This record or this channel is not there any more.');
  if (!listing?.remote)
    return fail(`It does not stand on ${channel.rules.name} yet: send it first, as a draft or under embargo.`);
  const wish = trialWish({ ...surveyed.survey.facts, here: at }, at);
  if (wish === null) return fail('There is nothing to be bought: name a price level and a start.');
  try {
    const client = clientOf(house, channel.row.id);
    const { remote } = listing;
    const trial = await onOwnBehalf(house, listing, async () =>
      client.trial?.(remote, wish, {
        reference: listing.id,
        // Each is a purchase of its own.
        key: randomUUID(),
        pictures: [],
        reason: '',
        effects: [],
      }),
    );
    if (!trial) return fail(`A purchase cannot be tried on ${channel.rules.name}.`);
    const checks = trialChecks(wish, surveyed.survey.facts.title, trial);
    if (checks.every((check) => check.right))
      transaction(house.db, (tx) => {
        asksAgain(tx, doer, 'tryPurchase');
        putTick(tx, recordId, { line: trialLine(at), value: wish.words, by: doer.name, at: house.clock.now() });
        markStale(tx, recordId);
      });
    return ok(checks);
  } catch (error) {
    if (!isOutsideError(error)) throw error;
    return fail(`${channel.rules.name}: ${error.message}. ${outsideErrorWords[error.kind]}`);
  }
}
