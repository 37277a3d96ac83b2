import { momentWords, shortDate, spanWords } from '../dates/date-words';
import { withStop } from '../base/with-stop';
import type { Finding, FindingFact } from './finding';
import { quoted } from '../base/quoted';

type Words = { [C in FindingFact['code']]: (fact: Extract<FindingFact, { code: C }>) => string };

/** The one table that puts words to findings: what is so, and the way out. */
const words: Words = {
  'title-empty': () => 'The event has no title. Give it one; a working title will do.',
  'text-too-long': (f) => `${f.length} characters; at most ${f.limit} fit. Shorten it.`,
  'date-malformed': (f) => `${quoted(f.text)} is no date. Write it as YYYY-MM-DD, between 1970 and 2037.`,
  'time-malformed': (f) => `${quoted(f.text)} is no time of day. Write it like 19:30 or 7.30pm.`,
  'start-empty': () => 'The start is missing. Write it like 19:30 or 7.30pm.',
  'end-before-start': (f) =>
    `The end ${f.end} lies before the start ${f.start}. Move it, or tick “ends after midnight”.`,
  'doors-after-start': (f) => `Doors ${f.doors} open after the start ${f.start}. Move one of them.`,
  'time-skipped': (f) =>
    `${f.time} does not exist on ${f.date} in ${f.zone}: the clocks go forward. Use ${f.before} or ${f.after}.`,
  'time-twice': (f) => `${f.time} comes twice on ${f.date} in ${f.zone}: the clocks go back. Say which one.`,
  'zone-unknown': (f) => `${quoted(f.zone)} is not in the IANA zone data. Pick a zone such as Europe/Dublin.`,
  'venue-unknown': () => 'This venue is not in the directory any more. Pick another.',
  'room-unknown': () => 'This room is not in that venue. Pick another.',
  'name-empty': () => 'A name is missing. Write it, or take the line out.',
  'price-malformed': (f) =>
    f.text.trim() === ''
      ? 'The price is missing. Write it like 18 or 18.50, or 0 where it costs nothing.'
      : `${quoted(f.text)} is no price in ${f.currency}. Write it like 18 or 18.50.`,
  'quantity-malformed': (f) => `${quoted(f.text)} is no number of tickets. Write a whole number, or leave it empty.`,
  'link-malformed': (f) => `${quoted(f.text)} is no web address. It starts with http:// or https://.`,
  'too-many': (f) => `${f.count} are more than the ${f.limit} that a record holds. Take some out.`,
  'value-refused': (f) => `This value cannot be kept: ${f.detail.replace(/\.$/, '')}. Put it right, or leave it empty.`,
  'shown-shorter': (f) =>
    `${f.length} characters where ${f.limit} fit: shown cut short. Shorten it to choose the cut yourself.`,
  'needed-empty': (f) => `${f.label} is needed here and the record has none. Fill it in.`,
  'price-none': () => 'No price yet. Add a price level, or say that entry is free.',
  'venue-none': () => 'No venue yet. Pick one, or make one in place.',
  'picture-none': (f) => `A picture of shape ${f.ratio} is needed. Add one.`,
  'picture-small': (f) => `The crop is ${f.have} px wide where ${f.need} are needed. Add a larger picture.`,
  'picture-shape': (f) =>
    `Wrong shape: a ${f.ratio} crop keeps ${f.kept} % of the picture. Move the focal point, or add another shape.`,
  'alt-empty': () => 'The picture has no description for those who cannot see it. Write one line.',
  'picture-ends': (f) =>
    `“${f.name}” may be used until ${shortDate(f.until)} only, and the event is later. Take another picture, or ask for longer.`,
  'category-unmapped': (f) =>
    `This channel has no category for “${f.eventType}”: it will stand on the general page only.`,
  'giver-stopped': (f) =>
    `${f.from} is to give the link and cannot take the event as it stands, so this would wait for ever. Put right what it stops at there; or give another link under Tickets, sell without ${f.from}, or leave it off here.`,
  'link-awaited': (f) => `The ticket link comes from ${f.from} and is filled in when that has been placed.`,
  'put-away': () => 'It is put away. Bring it back, at the head of the record, and save it then.',
  'cut-loose': (f) =>
    `What stands there (${f.address}) is no longer ours: the tie was cut on ${momentWords(f.since, 'UTC').split(',')[0]}. What the record says, private or changed, does not reach it; see to it there by hand.`,
  'never-public': (f) =>
    `A ${f.eventType} is never public in this house. Choose another kind of event, or say otherwise under Directory, The house’s own.`,
  'categories-cut': (f) =>
    `It takes ${f.most === 1 ? 'one category' : `${f.most} categories`}: left out here: ${f.out}.`,
  'refused-there': (f) => `It was refused there: ${withStop(f.message)}`,
  'late-there': (f) =>
    `Sent on ${momentWords(f.since, f.zone)}, and not seen there yet; it usually takes ${spanWords(f.usualMs)}.${f.causes === '' ? '' : ` Perhaps: ${f.causes}`}`,
  'not-on-list': (f) =>
    `By hand it says “${f.text}”, which is not on the list there. Take what is: ${f.words}; or follow the record again.`,
  'hashtags-out': (f) => `Hashtags that do not fit behind the words (${f.limit} characters): ${f.out}.`,
  'not-public': () => 'Private: it never leaves the house. Make it public to send it.',
  pencilled: () => 'Only pencilled: it stays in the house until it is confirmed.',
  embargoed: (f) => `Under embargo until ${momentWords(f.until, f.zone)} (${f.zone}); nothing goes out before.`,
  'all-past': () => 'Every performance is over. Sending it now tells the public of a past event.',
  'performances-none': () => 'The event has no date at all. Add a performance; its date may be open.',
  'carried-over': (f) =>
    `Copied: ${f.facts.join(', ')} still stand as in the event it was copied from. Keep or replace each before it may be sent.`,
  'other-town': (f) =>
    `Moved to another town: ${f.facts.join(', ')} still stand as for the old one. Keep or replace each before it may be sent.`,
  'over-allocated': (f) =>
    `The outlets hold ${f.allocated} seats where ${f.pool} may be sold: ${f.over} over. Take ${f.over} away from an outlet.`,
  oversold: (f) =>
    `${f.over} more are sold than the ${f.pool} seats there are. Choose a larger set-up, or free held seats.`,
  'house-strained': (f) =>
    `On ${shortDate(f.date)} ${f.oversold > 0 ? `${f.oversold} more are sold than the ${f.pool} seats there are` : `the outlets hold ${f.over} seats more than the ${f.pool} that may be sold`}${f.more > 0 ? `, and on ${f.more} other dates` : ''}. Choose a larger room or set-up for it, or give out less.`,
  'sale-never-open': (f) => `“${f.level}” closes before it opens: it can never be bought. Move its window.`,
  'level-unbuyable': (f) =>
    `Nobody can buy “${f.level}”: no seat of it is left to sell. Raise its number, or take it out.`,
  'code-empty': (f) => `“${f.level}” is for code holders and has no code: nobody can buy it. Give it a code.`,
  'hidden-codeless': (f) =>
    `“${f.level}” is for ${f.buyers} and has no code: nobody could buy it here. Give it a code under Tickets.`,
  'currency-elsewhere': (f) =>
    `The prices are in ${f.currency}, and in ${f.town} one pays in ${f.pays}. Pick the currency under Tickets, or let it stand.`,
  'sale-after-start': (f) => `“${f.level}” goes on sale after the start. Move its window.`,
  'order-impossible': (f) =>
    `“${f.level}” asks for at least ${f.least} and allows at most ${f.most} in one order. Put one of them right.`,
  'token-broken': (f) => `A token in the words is broken: ${f.detail}. Write it like {{ date }}.`,
  'token-unknown': (f) => `There is no token ${quoted(f.token)}. Pick one from the list that opens as you type {{.`,
  'token-empty': (f) => `The record has nothing for {{ ${f.token} }} yet: it is left out.`,
  override: () => 'Worded by hand for this channel.',
  'override-behind': (f) =>
    `Worded by hand when the record said “${short(f.from)}”; it now says “${short(f.now)}”. Word it again, or follow the record.`,
  'shown-fitted': (f) => `${f.length} characters where ${f.limit} fit: ${f.how}.`,
  'date-imprecise': (f) => `Only “${f.known}” is known: this channel needs a date and a start. Fill them in, or wait.`,
  'notice-unfit': (f) =>
    `Even the parts that a post needs take ${f.needs} characters where ${f.limit} fit. Give the event a shorter title, or write the post yourself.`,
  'goes-later': (f) => `It goes out no earlier than ${momentWords(f.until, f.zone)} (${f.zone}).`,
  lapsing: (f) => `The ${f.label} lapses ${momentWords(f.at, f.zone)} (${f.zone}). Send it to renew it.`,
  'picture-cuts': (f) =>
    `The ${f.ratio} crop cuts the keep-area by ${f.px} px. Make the keep-area smaller, or add another shape.`,
  'picture-portrait': (f) => `Only upright pictures: a ${f.ratio} crop keeps ${f.kept} %. Add a landscape one.`,
  'credit-empty': () => 'The picture has no credit. Say whose it is before it is announced.',
  drafted: (f) => `Drafted from a longer text and not looked at yet: ${f.lengths.join(', ')}.`,
  'last-before-first': () => 'The last day lies before the first. Move one of them.',
  'set-up-unknown': () => 'This set-up is not one of the room’s. Pick another.',
  'buyers-unsaid': () =>
    'Say what this price level is: full price, reduced, for groups, members, holders of a code, or those invited.',
  'registration-nowhere': () =>
    'Free with registration, and nowhere to register. Give the address of a registration page, or say how: “write to …”, “call …”.',
  'registration-over': (f) =>
    `Registration closes on ${shortDate(f.closes)}, which is over or lies after the start. Move the last day.`,
  'join-public': (f) =>
    `The address where one joins stands in public, in ${f.field}. It is only for those who hold a place: take it out there, or give the address where one keeps a place.`,
  'parts-over': (f) =>
    `The parts of the house add up to ${f.sum} seats where ${f.pool} may be sold. Make them smaller, or choose a larger set-up.`,
  'fee-malformed': (f) => `${quoted(f.text)} is no fee. Write the per cent like 4.5, and amounts like 0.60.`,
  'percent-malformed': (f) => `${quoted(f.text)} is no per cent. Write a whole number from 1 to 100.`,
  'covers-gone': (f) => `“${f.level}” lets in to a date that is not there any more. Choose its dates again.`,
  'covers-many': (f) =>
    `“${f.level}” lets in to any ${f.n} where there ${f.dates === 1 ? 'is one date' : `are ${f.dates} dates`}. Make it fewer.`,
  'coupon-never': (f) => `The coupon “${f.name}” ends before it begins. Move one of its days.`,
  'coupon-twice': (f) => `Two coupons have the code “${f.name}”. Change one of them.`,
  'choices-none': (f) =>
    `“${short(f.ask)}” is to be answered from a list, and there is none. Write what one may choose.`,
  'consent-empty': (f) => `“${short(f.ask)}” asks for a consent to nothing. Write what one says yes to.`,
  'part-gone': (f) => `${f.what} names something that is not there any more. Choose again, or take it out.`,
  'not-for-them': (f) =>
    `It is for ${f.who}, and this channel is seen by others too: nothing of it is sent there. Say under Channels whom a channel is for.`,
  'left-out-here': (f) => `Left out here: ${f.what.join(', ')}.`,
  'order-limit-usual': (f) =>
    `This channel asks for the most in one order; the record names none, so ${f.n} is sent. Say another under Tickets.`,
  'total-over': (f) => `At most ${f.total} are to be sold where the room leaves ${f.room}: the room decides.`,
  'level-over-part': (f) =>
    `The price levels of “${f.part}” add up to ${f.sum} seats where it has ${f.seats}: the last of them will not be had.`,
  'levels-below-allocated': (f) =>
    `The outlets hold ${f.allocated} seats where all price levels together sell ${f.sum}. Raise a level, or give out less.`,
  'link-unmet': (f) => `Its link was to lead to ${f.wanted}, which has no address: it leads to ${f.instead}.`,
  'giver-draft': (f) =>
    `${f.name}, which gives the ticket link, stays a draft: ${f.asks ? 'this goes out without it, or stays a draft too' : 'it comes once that is shown'}.`,
  'kept-draft': () => 'Stays a draft there: all of it is kept, and nobody sees it yet.',
  'link-circle': (f) =>
    `${f.names.join(' and ')} wait for each other’s address, so neither could ever be placed. Let one of them lead elsewhere.`,
  'recording-public': (f) =>
    `The address of the recording stands in public, in ${f.field}, though it is not set to be shown. Take it out there, or show it.`,
  'figure-gone': () =>
    'A picture in the text is not among the pictures any more: it is left out. Put it back, or take it out of the text.',
  'sheet-open': (f) =>
    `Nobody has gone through the sheet before the sale opens: ${f.open} ${f.open === 1 ? 'line is' : 'lines are'} not ticked. See “Before the sale opens” under Tickets.`,
  'number-malformed': (f) => `${quoted(f.text)} is no ${f.what}. Write a whole number, or leave it empty.`,
  'unlisted-here': () =>
    'The event is unlisted, and this channel shows what it has to everybody: nothing is sent there. Make it public, or leave the channel off.',
  'moment-unclear': (f) =>
    `${f.what} cannot be reckoned: that time does not exist there, or comes twice. Nothing goes out before it is put right.`,
  'twice-there': (f) =>
    `It stands there twice: an answer was lost and it was placed again, or somebody doubled it. The other one is at ${f.address}. Take one of them down.`,
  'channel-says': ({ note }) => `The channel says: ${note}.`,
  'turned-down': ({ note }) =>
    `A person there turned it down: ${note}. Change what they object to and send it again, or leave the channel off.`,
  'twice-sent': (f) => `It went out ${f.times} times there, and cannot be taken back.`,
  'gone-there': () =>
    'It was deleted there: it was looked for by its id and by our reference. Place it again, or let it go.',
  'unread-there': () =>
    'An answer was lost while it was being placed: the channel is asked what stands there before anything else is sent.',
  'locked-there': (f) => `${f.label}: ${f.why}.`,
  'link-closed': (f) => `The ticket link leads to ${f.name}, which is not on sale any more. Send the change.`,
  'not-connected': () => 'This channel is not connected. Connect it under Channels.',
  'lock-undecided': (f) =>
    `Something is locked on ${f.where}, and nobody has said yet what is to become of it: nothing else of this event goes out before. Pick a way there, or say that it stays.`,
  'left-there': (f) =>
    `${f.label} stays as it is there until ${momentWords(f.until, f.zone)}, by ${f.by}: ${f.because}`,
  'beyond-record': (f) =>
    `It stands there in public, and ${f.why}. It cannot be taken back by itself: take it down, or let it stand.`,
  'moment-missed': (f) =>
    `It was to go at ${momentWords(f.at, f.zone)}, and nobody had said yes to it. Send it now, give it another moment, or remove it.`,
  'off-since': (f) =>
    `It was planned before the event was ${f.turn}, so it was taken off and will not go. Put it back if it still fits.`,
};

/** A text short enough to stand in a sentence. */
function short(text: string): string {
  const plain = text
    .replace(/<[^>]*>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return plain.length > 60 ? `${plain.slice(0, 59)}…` : plain;
}

/** A finding in words for a person: what is so and what to do. */
export function findingWords(finding: Finding): string {
  // Each entry takes the fact with its own code; TypeScript cannot follow the pairing through an index.
  const say = words[finding.code] as (fact: FindingFact) => string;
  return say(finding);
}
