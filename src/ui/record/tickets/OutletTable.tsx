import { Fields, useFills } from '@/ui/may/Fields';
import { Select, Textarea, TextInput } from '@mantine/core';
import { sells, type ChannelRules } from '@/core/listing/channel-rules';
import { useChannels } from '@/ui/use-channels';
import { feeIn } from '@/core/facts/tickets/fees';
import { priceText, type OutletDraft, type TicketsDraft } from '@/core/record/draft';
import { outletHistory } from '@/core/facts/sales';
import { bestMove, paceOf, type Move } from '@/core/facts/tickets/moves';
import { freshPartId, narrow, RowProblems, type FieldError } from '../form-parts';
import { Holds } from './Holds';
import { SoldFields } from './SoldFields';
import classes from '../RecordForm.module.css';
import type { OutletProps, Pace, TicketsProps } from './outlet-props';

/**
 * Where it is sold, in order of priority: link, allocation, fee, and what each has sold. Then holds, parts of the
 * house, refunds.
 */
export function OutletTable(props: OutletProps) {
  const table = useOutletChanges(props);
  const { tickets, proposal, onChange, selling, add, error } = table;
  const all = useFills('tickets') === 'all';
  return (
    <>
      {tickets.outlets.map((outlet, i) => (
        <OutletRow key={outlet.id} table={table} outlet={outlet} i={i} />
      ))}
      {proposal ? <Proposal proposal={proposal} tickets={tickets} onChange={onChange} /> : null}
      <Fields open={all}>
        <div className={classes.inline}>
          {selling.map(({ rules }) => (
            <button key={rules.id} type="button" className="plainButton" onClick={() => add(rules)}>
              Add {rules.name}
            </button>
          ))}
          <button type="button" className="plainButton" onClick={() => add(null)}>
            Add an outlet
          </button>
        </div>
      </Fields>
      <Holds
        label="held back"
        add="Hold seats back for this event, in place of what the set-up holds"
        list={tickets.holds}
        at="tickets.holds"
        error={error}
        onChange={(holds) => onChange({ ...tickets, holds })}
      />
      <Fields open={all}>
        <Holds
          label="part of the house"
          add="Add a part of the house with seats of its own"
          list={tickets.pools}
          at="tickets.pools"
          error={error}
          onChange={(pools) => onChange({ ...tickets, pools: pools ?? [] })}
        />
        <Textarea
          mt={8}
          label="Refunds"
          autosize
          minRows={1}
          maxRows={4}
          value={tickets.refunds}
          error={error('tickets.refunds')}
          onChange={(e) => onChange({ ...tickets, refunds: e.currentTarget.value })}
        />
      </Fields>
    </>
  );
}

/** What outlets are changed with. */
function useOutletChanges(props: OutletProps) {
  const { tickets, onChange, error } = props;
  const set = (id: string, part: Partial<OutletDraft>) =>
    onChange({
      ...tickets,
      outlets: tickets.outlets.map((outlet) => (outlet.id === id ? { ...outlet, ...part } : outlet)),
    });
  const move = (index: number, by: number) => {
    const next = [...tickets.outlets];
    const [outlet] = next.splice(index, 1);
    if (outlet) next.splice(index + by, 0, outlet);
    onChange({ ...tickets, outlets: next });
  };
  const channels = useChannels();
  const add = (rules: ChannelRules | null) =>
    onChange({ ...tickets, outlets: [...tickets.outlets, freshOutlet(rules, tickets)] });
  const selling = channels.all.filter(
    ({ rules }) => sells(rules) && !tickets.outlets.some((outlet) => outlet.channel === rules.id),
  );
  const { paces, proposal } = pacesOf(props);
  return { error, set, channels, move, onChange, tickets, props, paces, proposal, selling, add };
}

type OutletChanges = ReturnType<typeof useOutletChanges>;

/** Puts an outlet before the others, or takes it out. */
function RowTools({
  table: { move, onChange, tickets },
  outlet,
  i,
}: {
  table: OutletChanges;
  outlet: OutletDraft;
  i: number;
}) {
  return (
    <span className={classes.rowTools}>
      <button
        type="button"
        className="plainButton"
        disabled={i === 0}
        aria-label={`${outlet.name} before the others`}
        onClick={() => move(i, -1)}
      >
        up
      </button>
      <button
        type="button"
        className="plainButton"
        onClick={() =>
          onChange({
            ...tickets,
            outlets: tickets.outlets.filter((outletDraft) => outletDraft.id !== outlet.id),
          })
        }
      >
        remove
      </button>
    </span>
  );
}

/** One outlet with its link, its seats and its fee. */
function OutletRow({ table, outlet, i }: { table: OutletChanges; outlet: OutletDraft; i: number }) {
  const { error, set, channels, props, paces } = table;
  const all = useFills('tickets') === 'all';
  return (
    <div role="group" aria-label={`Outlet ${i + 1}`} className={classes.outletBlock}>
      <div className={classes.outlet}>
        <Fields open={all}>
          <TextInput
            label={`${i + 1}. outlet`}
            value={outlet.name}
            error={error(`tickets.outlets.${i}.name`)}
            onChange={(e) => set(outlet.id, { name: e.currentTarget.value })}
          />
          {outlet.channel === null ? (
            <TextInput
              label="Link"
              value={outlet.link}
              placeholder="none"
              error={error(`tickets.outlets.${i}.link`)}
              onChange={(e) => set(outlet.id, { link: e.currentTarget.value })}
            />
          ) : (
            <TextInput label="Link" value={`given by ${channels.name(outlet.channel)}`} readOnly />
          )}
        </Fields>
        <TextInput
          label="Seats"
          value={outlet.allocation}
          placeholder="all left"
          {...narrow(error, `tickets.outlets.${i}`, 'allocation')}
          onChange={(e) => set(outlet.id, { allocation: e.currentTarget.value })}
        />
        <Fields open={all}>
          <TextInput
            label="Track as"
            value={outlet.trackAs}
            placeholder="not"
            {...narrow(error, `tickets.outlets.${i}`, 'trackAs')}
            onChange={(e) => set(outlet.id, { trackAs: e.currentTarget.value })}
          />
          <RowTools table={table} outlet={outlet} i={i} />
        </Fields>
      </div>
      <RowProblems error={error} row={`tickets.outlets.${i}`} fields={['allocation', 'trackAs']} />
      <Fields open={all}>
        <FeeFields
          outlet={outlet}
          at={`tickets.outlets.${i}.fee`}
          error={error}
          set={(fee) => set(outlet.id, { fee })}
        />
      </Fields>
      <SoldFields {...props} outlet={outlet} pace={paces.get(outlet.id)} />
    </div>
  );
}

function freshOutlet(rules: ChannelRules | null, { currency, outlets }: TicketsDraft): OutletDraft {
  const own = rules?.fee ? feeIn(rules.fee, currency) : null;
  const fee = own
    ? {
        mode: 'added' as const,
        percent: String(own.basisPoints / 100),
        fixed: priceText(own.fixed, currency),
        cap: own.cap === null ? '' : priceText(own.cap, currency),
      }
    : null;
  return {
    id: freshPartId(),
    name: rules?.name ?? (outlets.length === 0 ? 'Box office' : 'Door'),
    channel: rules?.id ?? null,
    link: '',
    allocation: '',
    fee,
    trackAs: 'via',
  };
}

function FeeFields({
  outlet,
  at,
  error,
  set,
}: {
  outlet: OutletDraft;
  at: string;
  error: FieldError;
  set: (fee: OutletDraft['fee']) => void;
}) {
  const { fee } = outlet;
  if (fee === null)
    return (
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() => set({ mode: 'added', percent: '', fixed: '', cap: '' })}
        >
          Add a booking fee
        </button>
      </div>
    );
  const field = (key: 'percent' | 'fixed' | 'cap', label: string) => (
    <TextInput
      w={84}
      label={label}
      value={fee[key]}
      {...narrow(error, at, key)}
      onChange={(e) => set({ ...fee, [key]: e.currentTarget.value })}
    />
  );
  return (
    <>
      <div className={classes.inline}>
        {field('percent', 'Fee, %')}
        {field('fixed', 'and fixed')}
        {field('cap', 'at most')}
        <Select
          w={130}
          label="The fee is"
          data={['added', 'absorbed']}
          value={fee.mode}
          allowDeselect={false}
          onChange={(mode) => set({ ...fee, mode: mode === 'absorbed' ? 'absorbed' : 'added' })}
        />
        <button type="button" className="plainButton" onClick={() => set(null)}>
          No fee
        </button>
      </div>
      <RowProblems error={error} row={at} fields={['percent', 'fixed', 'cap']} />
    </>
  );
}

/**
 * What each outlet sold of the performance, what it has left and how fast it sells; and the move that would help most.
 */
function pacesOf({ tickets, performance, sales, now }: OutletProps): {
  paces: Map<string, Pace>;
  proposal: Move | null;
} {
  const admits = new Map(tickets.levels.map((level) => [level.id, Number(level.admits) || 1]));
  const paces = new Map(
    tickets.outlets.map((outlet): [string, Pace] => {
      const history =
        performance !== undefined ? outletHistory(sales, performance, outlet.channel ?? outlet.id, admits) : [];
      const sold = history[history.length - 1]?.sold ?? 0;
      const allocation = /^\d+$/.test(outlet.allocation.trim()) ? Number(outlet.allocation) : null;
      return [
        outlet.id,
        {
          sold,
          left: allocation === null ? null : Math.max(0, allocation - sold),
          perDay: Math.round(paceOf(history, now) * 10) / 10,
        },
      ];
    }),
  );
  const known = [...paces].flatMap(([id, { left, perDay }]) => (left === null ? [] : [{ id, left, perDay }]));
  return { paces, proposal: known.length > 1 ? bestMove(known) : null };
}

const dayWords = (days: number) => (days === Infinity ? 'for good' : `${Math.round(days * 100) / 100} days`);

function Proposal({
  proposal,
  tickets,
  onChange,
}: {
  proposal: Move;
  tickets: TicketsDraft;
  onChange: TicketsProps['onChange'];
}) {
  const named = (id: string) => tickets.outlets.find((outlet) => outlet.id === id)?.name ?? '';
  const apply = () =>
    onChange({
      ...tickets,
      outlets: tickets.outlets.map((outlet) =>
        outlet.id === proposal.from
          ? { ...outlet, allocation: String(Number(outlet.allocation) - proposal.seats) }
          : outlet.id === proposal.to
            ? { ...outlet, allocation: String(Number(outlet.allocation) + proposal.seats) }
            : outlet,
      ),
    });
  return (
    <p className={classes.notice}>
      At this week’s pace one of them is empty in {dayWords(proposal.lastsNow)}. Moving {proposal.seats} seats from{' '}
      {named(proposal.from)} to {named(proposal.to)} makes that {dayWords(proposal.lastsThen)}.{' '}
      <button type="button" className="plainButton" onClick={apply}>
        Move them
      </button>
    </p>
  );
}
