import { Fields, useFills } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { Select, TextInput } from '@mantine/core';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { memo, useMemo, useState } from 'react';
import type { LevelDraft, TicketsDraft } from '@/core/record/draft';
import { shortDate } from '@/core/dates/date-words';
import { currencies, type Currency } from '@/core/base/money';
import { nextOf, type PerformanceFacts } from '@/core/facts/performance-facts';
import { needsSheet, type SheetTick } from '@/core/listing/sale-sheet';
import { toLocal } from '@/core/base/zones';
import { freshPartId, More, Section } from '../form-parts';
import { LevelTable } from './LevelTable';
import { type TicketsProps } from './outlet-props';
import { useWantedBy } from '@/ui/use-channels';
import classes from '../RecordForm.module.css';
import { registrationCount } from '@/core/facts/tickets/registering';
import type { Tick } from './SaleSheet';
import type { TryPurchase } from './TrialPurchase';

const SeatSums = dynamic(() => import('./SeatSums').then(({ SeatSums }) => SeatSums, notFetched));
const Counts = dynamic(() => import('./Counts').then(({ Counts }) => Counts, notFetched));
const SaleSheet = dynamic(() => import('./SaleSheet').then(({ SaleSheet }) => SaleSheet, notFetched));
const BookingFields = dynamic(() => import('./BookingFields').then(({ BookingFields }) => BookingFields, notFetched));
const Coupons = dynamic(() => import('./Extras').then(({ Coupons }) => Coupons, notFetched));
const Extras = dynamic(() => import('./Extras').then(({ Extras }) => Extras, notFetched));
const OutletTable = dynamic(() => import('./OutletTable').then(({ OutletTable }) => OutletTable, notFetched));
const Questions = dynamic(() => import('./Questions').then(({ Questions }) => Questions, notFetched));
const RegistrationFields = dynamic(() =>
  import('./RegistrationFields').then(({ RegistrationFields }) => RegistrationFields, notFetched),
);

/** A level to start from. The first is the full price; what a further one is, is asked. */
function freshLevel(count: number): LevelDraft {
  return {
    id: freshPartId(),
    name: count === 0 ? 'Standard' : '',
    price: '',
    buyers: count === 0 ? 'anyone' : '',
    code: '',
    quantity: '',
    admits: '1',
    least: '1',
    most: '',
    opens: null,
    closes: null,
    choose: false,
    poolId: null,
    words: '',
    covers: { kind: 'one' },
    taxPercent: '',
  };
}

interface TicketsSectionProps extends TicketsProps {
  /** Ticked lines of the sheet before the sale opens, and ticking one; `null`: not saved yet. */
  ticks: readonly SheetTick[];
  tick: Tick | null;
  /** Tries a purchase; `null`: not saved yet. */
  trial: TryPurchase | null;
  /** A channel that sells has had it on sale. */
  opened: boolean;
  /** The house's zone. */
  zone: string;
}

/** How one gets in: price levels and outlets with their sums, registration, free entry, or another house's link. */
export const TicketsSection = memo(function TicketsSection(props: TicketsSectionProps) {
  const sale = useSale(props);
  const { words, tickets, error, set, facts, sold, performance, setChosen, house } = sale;
  const [all, writes] = [useFills('tickets') === 'all', useMay('write')];
  return (
    <Section
      id="tickets"
      title="Tickets"
      aside={
        words === '' ? null : (
          <>
            the public reads: <b>{words}</b>
          </>
        )
      }
    >
      <Fields open={all}>
        {tickets.mode === 'elsewhere' ? (
          <TextInput
            mt={10}
            label="Ticket link of the other house"
            value={tickets.link}
            placeholder="https://"
            error={error('tickets.link')}
            onChange={(e) => set({ link: e.currentTarget.value })}
          />
        ) : null}
      </Fields>
      {tickets.mode === 'free entry' ? (
        <p className={classes.muted}>Free entry: nothing is sold, and no marketplace is needed.</p>
      ) : null}
      <Counts
        sales={props.sales}
        sources={props.sources}
        performances={facts.performances}
        levels={tickets.levels}
        outlets={tickets.outlets}
      />
      <Registering sale={sale} />
      <Fields open={all}>
        <Levels sale={sale} />
      </Fields>
      {sold && tickets.levels.length > 0 && facts.performances.length > 1 ? (
        <SumsFor performances={facts.performances} chosen={performance?.id ?? null} onChoose={setChosen} />
      ) : null}
      {sold && tickets.levels.length > 0 ? <SeatSums facts={facts} house={house} currency={tickets.currency} /> : null}
      {sold && needsSheet(facts) ? (
        <Fields open={all && writes}>
          <SaleSheet
            facts={facts}
            ticks={props.ticks}
            opened={props.opened}
            tick={props.tick}
            trial={props.trial}
            zone={props.zone}
          />
        </Fields>
      ) : null}
      <MoreOfSale sale={sale} all={all} />
    </Section>
  );
});

/** What the section shows of the sale: the level that is fresh, the night that the sums are for. */
function useSale(props: TicketsSectionProps) {
  const { tickets, onChange, facts, houseOn, now, error } = props;
  const [chosen, setChosen] = useState<string | null>(null);
  /** A level that was added just now: it is complained of once it was left. */
  const [fresh, setFresh] = useState<string | null>(null);
  const next = nextOf(facts.performances, now);
  const performance = facts.performances.find((performance) => performance.id === chosen) ?? next;
  const house = useMemo(
    () => (performance === undefined || performance.id === next?.id ? facts.house : houseOn(performance.id)),
    [performance, next, facts.house, houseOn],
  );
  const set = (part: Partial<TicketsDraft>) => onChange({ ...tickets, ...part });
  const words =
    facts.price.kind === 'unknown' || (facts.price.kind === 'free' && tickets.mode !== 'registration')
      ? ''
      : facts.price.words;
  const sold = tickets.mode === 'ticketed';
  const [extrasOn, questionsOn] = [useWantedBy('extra'), useWantedBy('question')];
  const details =
    tickets.outlets.length > 0 || tickets.pools.length > 0 || tickets.holds !== null || tickets.refunds !== '';
  return {
    sold,
    tickets,
    set,
    error,
    facts,
    now,
    extrasOn,
    questionsOn,
    props,
    details,
    performance,
    house,
    fresh,
    setFresh,
    next,
    words,
    setChosen,
  };
}

type Sale = ReturnType<typeof useSale>;

/** How one registers, where that is how one gets in. */
function Registering({ sale: { tickets, set, error, facts, next, props } }: { sale: Sale }) {
  if (!(tickets.mode === 'registration')) return null;
  return (
    <RegistrationFields
      tickets={tickets}
      onChange={set}
      error={error}
      places={facts.places}
      performance={next?.id ?? null}
      noteSold={
        props.sales.some((sale) => sale.levelId === registrationCount && sale.outlet !== registrationCount)
          ? null
          : props.noteSold
      }
      dates={facts.performances.length}
    />
  );
}

/** Price levels, and the currency of all of them. */
function Levels({ sale: { tickets, props, house, fresh, setFresh, set, next } }: { sale: Sale }) {
  if (tickets.mode === 'free entry' || tickets.mode === 'registration') return null;
  return (
    <>
      <LevelTable {...props} house={house} fresh={fresh} onLeave={() => setFresh(null)} />
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() => {
            const level = freshLevel(tickets.levels.length);
            setFresh(level.id);
            // Before anything is priced, it is priced in what one pays with there.
            const currency = (tickets.levels.length === 0 && next?.place?.pays) || tickets.currency;
            set({ levels: [...tickets.levels, level], currency });
          }}
        >
          Add a price level
        </button>
        {tickets.levels.length === 0 ? null : (
          <Select
            aria-label="Currency"
            w={70}
            data={[...currencies]}
            value={tickets.currency}
            searchable
            limit={60}
            allowDeselect={false}
            onChange={(currency) => set({ currency: (currency ?? 'EUR') as Currency })}
          />
        )}
      </div>
    </>
  );
}

/** What else is said of the sale: limits, extras, questions, outlets. */
function MoreOfSale({
  sale: { sold, tickets, set, error, facts, now, extrasOn, questionsOn, props, details, performance },
  all,
}: {
  sale: Sale;
  /** More than counts and seats is filled in. */
  all: boolean;
}) {
  return (
    <>
      <Fields open={all}>
        {sold ? (
          <More label="limits, end of booking, members, tax, service fee, the seller’s letter" open={booking(tickets)}>
            <BookingFields tickets={tickets} onChange={set} error={error} facts={facts} now={now} />
          </More>
        ) : null}
        {sold ? (
          <More
            label="extras and coupons"
            wantedBy={extrasOn}
            open={tickets.extras.length > 0 || tickets.coupons.length > 0}
          >
            <Extras tickets={tickets} onChange={set} error={error} facts={facts} />
            <Coupons tickets={tickets} onChange={set} error={error} facts={facts} />
          </More>
        ) : null}
        {sold || tickets.mode === 'registration' ? (
          <More
            label={sold ? 'questions to those who order' : 'questions to those who register'}
            open={tickets.questions.length > 0}
            wantedBy={questionsOn}
          >
            <Questions
              questions={tickets.questions}
              onChange={(questions) => set({ questions })}
              error={error}
              sets={props.questionSets}
              keep={props.keepQuestions}
            />
          </More>
        ) : null}
      </Fields>
      {sold ? (
        <More
          label="outlets and fees, allocations, holds, parts of the house, refunds"
          open={details || facts.house.over > 0 || !all}
        >
          <OutletTable {...props} performance={performance?.id} />
        </More>
      ) : null}
    </>
  );
}

/** Something is said of the sale as a whole. */
function booking({
  total,
  mostPerOrder,
  showLeft,
  serviceFee,
  letter,
  closes,
  membersProof,
  tax,
}: TicketsDraft): boolean {
  return (
    [total, mostPerOrder, showLeft, serviceFee, membersProof, letter.words, letter.several].some(
      (text) => text.trim() !== '',
    ) ||
    closes !== null ||
    tax !== 'unsaid'
  );
}

/** Which performance the sums and counts are for. */
function SumsFor({
  performances,
  chosen,
  onChoose,
}: {
  performances: readonly PerformanceFacts[];
  chosen: string | null;
  onChoose: (id: string | null) => void;
}) {
  const data = useMemo(
    () =>
      performances.map((performance) => ({
        value: performance.id,
        label: `${shortDate(performance.date)}${performance.start === null ? '' : ` ${toLocal(performance.start, performance.zone).time}`}`,
      })),
    [performances],
  );
  return (
    <div className={classes.inline}>
      <span>Sums and counts for</span>
      <Select
        w={160}
        aria-label="Sums for"
        searchable
        limit={60}
        data={data}
        value={chosen}
        allowDeselect={false}
        onChange={onChoose}
      />
    </div>
  );
}
