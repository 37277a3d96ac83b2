import type { Facts } from '../facts/facts';
import { nextOf } from '../facts/performance-facts';
import { registrationOver } from '../facts/tickets/registering';
import { neverOpens } from '../facts/tickets/windows';
import { finding, type Finding } from '../findings/finding';
import type { Instant } from '../base/zones';

/** What the record's own sums and dates say against its being told to anybody, or for a second look first. */
export function contentFindings(facts: Facts, now: Instant): Finding[] {
  return [
    ...commonFindings(facts, now),
    ...registrationFindings(facts, now),
    ...facts.pictureEnds.map((end) => finding(['pictures'], 'warns', { code: 'picture-ends', ...end })),
  ];
}

/**
 * What was found last for a house, and of what: an event's facts are the same for all of its listings but for link and
 * place.
 */
const known = new WeakMap<Facts['house'], { of: Facts; now: Instant; findings: Finding[] }>();
const read = ['strained', 'levels', 'performances', 'outlets', 'seats', 'drafted', 'parts', 'ticketed'] as const;

function commonFindings(facts: Facts, now: Instant): Finding[] {
  const last = known.get(facts.house);
  if (last?.now === now && read.every((key) => last.of[key] === facts[key])) return last.findings;
  const findings = findCommon(facts, now);
  known.set(facts.house, { of: facts, now, findings });
  return findings;
}

function findCommon(facts: Facts, now: Instant): Finding[] {
  const found: Finding[] = [];
  if (facts.performances.length > 0 && facts.performances.every((performance) => performance.over < now))
    found.push(finding(['performances'], 'warns', { code: 'all-past' }));
  if (facts.drafted.length > 0)
    found.push(finding(['words'], 'warns', { code: 'drafted', lengths: [...facts.drafted] }));
  return [...found, ...houseFindings(facts)];
}

/** Free with registration is told to nobody who could not register. */
function registrationFindings({ registration, link, contact, performances, gifts }: Facts, now: Instant): Finding[] {
  if (registration === null) return [];
  const next = nextOf(performances, now);
  const found: Finding[] =
    // The channel that gives the link carries none itself.
    link.kind === 'none' && contact === '' && gifts['registration link'] === undefined
      ? [finding(['tickets', 'link'], 'stops', { code: 'registration-nowhere' })]
      : [];
  const { closes } = registration;
  if (
    closes !== null &&
    next &&
    next.precision !== 'open' &&
    (closes > (next.lastDate ?? next.date) || registrationOver(registration, next.zone, now))
  )
    found.push(finding(['tickets', 'registration', 'closes'], 'warns', { code: 'registration-over', closes }));
  return found;
}

/** What the sums of the house forbid: nothing may be oversold. */
function houseFindings(facts: Facts): Finding[] {
  const { house, strained, ticketed, levels, performances, parts } = facts;
  if (!ticketed) return [];
  const found: Finding[] = [];
  if (house.over > 0)
    found.push(
      finding(['tickets', 'outlets'], 'stops', {
        code: 'over-allocated',
        over: house.over,
        allocated: house.allocated,
        pool: house.pool ?? 0,
      }),
    );
  if (house.pool !== null && parts > house.pool)
    found.push(finding(['tickets', 'pools'], 'stops', { code: 'parts-over', sum: parts, pool: house.pool }));
  if (house.oversold > 0)
    found.push(finding(['tickets'], 'stops', { code: 'oversold', over: house.oversold, pool: house.pool ?? 0 }));
  found.push(...sumsFindings(facts));
  const [worst] = strained;
  if (worst)
    found.push(
      finding(['tickets'], 'stops', {
        code: 'house-strained',
        date: worst.date,
        over: worst.house.over,
        oversold: worst.house.oversold,
        pool: worst.house.pool ?? 0,
        more: strained.length - 1,
      }),
    );
  const start = performances[0]?.start ?? null;
  const sellable = new Map(house.levels.map((level) => [level.id, level.sellable]));
  for (const level of levels) {
    if (level.buyers === 'code' && level.code === '')
      found.push(finding(['tickets', 'levels'], 'stops', { code: 'code-empty', level: level.name }));
    if (level.opens !== null && start !== null && level.opens >= start)
      found.push(finding(['tickets', 'levels'], 'stops', { code: 'sale-after-start', level: level.name }));
    // A part of the house that is sold out is no news; a level that could never be bought is.
    if (
      sellable.get(level.id) === 0 &&
      (house.levels.find((levelSeats) => levelSeats.id === level.id)?.sold ?? 0) === 0 &&
      house.left !== 0
    )
      found.push(finding(['tickets', 'levels'], 'warns', { code: 'level-unbuyable', level: level.name }));
    if (neverOpens(level))
      found.push(finding(['tickets', 'levels'], 'stops', { code: 'sale-never-open', level: level.name }));
  }
  return found;
}

/** The sums of levels, outlets, parts and total, each held against the others. */
function sumsFindings({ house, levels, outlets, seats }: Facts): Finding[] {
  const found: Finding[] = [];
  if (house.totalOver > 0 && seats.total !== null)
    found.push(
      finding(['tickets', 'total'], 'warns', {
        code: 'total-over',
        total: seats.total,
        room: seats.total - house.totalOver,
      }),
    );
  for (const { name, sum, seats: own } of seats.parts)
    if (sum !== null && sum > own)
      found.push(finding(['tickets', 'pools'], 'warns', { code: 'level-over-part', part: name, sum, seats: own }));
  if (outlets.length > 0 && levels.length > 0 && seats.levels !== null && house.allocated > seats.levels)
    found.push(
      finding(['tickets', 'outlets'], 'warns', {
        code: 'levels-below-allocated',
        sum: seats.levels,
        allocated: house.allocated,
      }),
    );
  return found;
}
