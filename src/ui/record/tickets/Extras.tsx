import { MultiSelect, Select, TextInput } from '@mantine/core';
import type { CouponDraft, ExtraDraft, TicketsDraft } from '@/core/record/draft';
import { moneyWords } from '@/core/base/money';
import type { Facts } from '@/core/facts/facts';
import { DateField } from '@/ui/date-field';
import { freshPartId, narrow, RowProblems, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

interface ExtrasProps {
  tickets: TicketsDraft;
  onChange: (part: Partial<TicketsDraft>) => void;
  error: FieldError;
  facts: Facts;
}

/** Things sold with a ticket that admit nobody: a meal, a shirt. */
export function Extras({ tickets, onChange, error }: ExtrasProps) {
  const { extras } = tickets;
  const set = (id: string, part: Partial<ExtraDraft>) =>
    onChange({ extras: extras.map((extra) => (extra.id === id ? { ...extra, ...part } : extra)) });
  return (
    <>
      {extras.map((extra, i) => (
        <div key={extra.id} role="group" aria-label={`Extra ${i + 1}`}>
          <div className={classes.inline}>
            <TextInput
              w={130}
              label="Extra"
              autoFocus={extra.name === ''}
              value={extra.name}
              error={error(`tickets.extras.${i}.name`)}
              onChange={(e) => set(extra.id, { name: e.currentTarget.value })}
            />
            <TextInput
              w={70}
              label="Price"
              value={extra.price}
              inputMode="decimal"
              {...narrow(error, `tickets.extras.${i}`, 'price')}
              onChange={(e) => set(extra.id, { price: e.currentTarget.value })}
            />
            <TextInput
              w={70}
              label="So many"
              value={extra.quantity}
              placeholder="any"
              inputMode="numeric"
              {...narrow(error, `tickets.extras.${i}`, 'quantity')}
              onChange={(e) => set(extra.id, { quantity: e.currentTarget.value })}
            />
            <TextInput
              style={{ flex: 1, minWidth: 120 }}
              label="In public words"
              value={extra.words}
              error={error(`tickets.extras.${i}.words`)}
              onChange={(e) => set(extra.id, { words: e.currentTarget.value })}
            />
            <button
              type="button"
              className="plainButton"
              aria-label={`Remove ${extra.name || 'this extra'}`}
              onClick={() => onChange({ extras: extras.filter((extraDraft) => extraDraft.id !== extra.id) })}
            >
              remove
            </button>
          </div>
          <RowProblems error={error} row={`tickets.extras.${i}`} fields={['price', 'quantity']} />
        </div>
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() =>
            onChange({ extras: [...extras, { id: freshPartId(), name: '', price: '', quantity: '', words: '' }] })
          }
        >
          Add an extra, sold with a ticket
        </button>
      </div>
    </>
  );
}

/** Codes that take something off, with what is paid then. */
export function Coupons(props: ExtrasProps) {
  const list = useCouponChanges(props);
  const { coupons, onChange } = list;
  return (
    <>
      {coupons.map((coupon, i) => (
        <CouponRow key={coupon.id} list={list} coupon={coupon} i={i} />
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() =>
            onChange({
              coupons: [
                ...coupons,
                {
                  id: freshPartId(),
                  code: '',
                  off: { kind: 'percent', text: '' },
                  uses: '',
                  from: null,
                  until: null,
                  levels: [],
                },
              ],
            })
          }
        >
          Add a coupon
        </button>
      </div>
    </>
  );
}

/** What coupons are changed with. */
function useCouponChanges({ tickets, onChange, error, facts }: ExtrasProps) {
  const { coupons, levels } = tickets;
  const set = (id: string, part: Partial<CouponDraft>) =>
    onChange({ coupons: coupons.map((coupon) => (coupon.id === id ? { ...coupon, ...part } : coupon)) });
  return { facts, error, set, tickets, onChange, coupons, levels };
}

type CouponChanges = ReturnType<typeof useCouponChanges>;

interface CouponRowProps {
  list: CouponChanges;
  coupon: CouponDraft;
  i: number;
}

/** One coupon: what it takes off, for whom, and when. */
function CouponRow(props: CouponRowProps) {
  const row = useCouponRowState(props);
  const { i, levels, coupon, error, at, set, sums } = row;

  return (
    <div role="group" aria-label={`Coupon ${i + 1}`}>
      <CouponHead row={row} />
      {levels.length > 1 ? (
        <MultiSelect
          mt={4}
          aria-label={`Price levels of the coupon ${coupon.code}`}
          placeholder={coupon.levels.length === 0 ? 'for all price levels' : ''}
          data={levels.map((level) => ({ value: level.id, label: level.name || 'unnamed' }))}
          value={coupon.levels}
          error={error(`${at}.levels`)}
          onChange={(own) => set(coupon.id, { levels: own })}
        />
      ) : null}
      {sums === '' ? null : <p className={classes.underLine}>{sums}</p>}
      <RowProblems error={error} row={at} fields={['off', 'uses']} />
    </div>
  );
}

/** What a coupon comes to. */
function useCouponRowState({
  list: { facts, error, set, tickets, onChange, coupons, levels },
  coupon,
  i,
}: CouponRowProps) {
  const at = `tickets.coupons.${i}`;
  const sums = couponSums(facts, coupon.id);
  return { coupon, error, at, set, tickets, onChange, coupons, i, levels, sums };
}

type CouponRowState = ReturnType<typeof useCouponRowState>;

/** The coupon itself: its word, what it takes off, how often, from when until when. */
function CouponHead({ row: { coupon, error, at, set, tickets, onChange, coupons } }: { row: CouponRowState }) {
  return (
    <div className={classes.inline}>
      <TextInput
        w={110}
        label="Coupon"
        autoFocus={coupon.code === ''}
        value={coupon.code}
        error={error(`${at}.code`)}
        onChange={(e) => set(coupon.id, { code: e.currentTarget.value })}
      />
      <TextInput
        w={64}
        label="Takes off"
        value={coupon.off.text}
        {...narrow(error, at, 'off')}
        onChange={(e) => set(coupon.id, { off: { ...coupon.off, text: e.currentTarget.value } })}
      />
      <Select
        w={82}
        label="in"
        data={[
          { value: 'percent', label: '%' },
          { value: 'amount', label: tickets.currency },
        ]}
        value={coupon.off.kind}
        allowDeselect={false}
        onChange={(kind) => set(coupon.id, { off: { ...coupon.off, kind: kind === 'amount' ? 'amount' : 'percent' } })}
      />
      <TextInput
        w={64}
        label="Uses"
        value={coupon.uses}
        placeholder="any"
        {...narrow(error, at, 'uses')}
        onChange={(e) => set(coupon.id, { uses: e.currentTarget.value })}
      />
      <DateField
        w={150}
        label="From"
        value={coupon.from}
        placeholder="at once"
        onDate={(from) => set(coupon.id, { from })}
        onClear={() => set(coupon.id, { from: null })}
      />
      <DateField
        w={150}
        label="Until"
        value={coupon.until}
        placeholder="the start"
        onDate={(until) => set(coupon.id, { until })}
        onClear={() => set(coupon.id, { until: null })}
        error={error(`${at}.until`)}
      />
      <button
        type="button"
        className="plainButton"
        aria-label={`Remove the coupon ${coupon.code}`}
        onClick={() => onChange({ coupons: coupons.filter((couponDraft) => couponDraft.id !== coupon.id) })}
      >
        remove
      </button>
    </div>
  );
}

/** `Standard €17.60, Reduced €12.80`: what is paid with a coupon, before any fee. */
function couponSums({ coupons, levels }: Facts, id: string): string {
  const coupon = coupons.find((coupon) => coupon.id === id);
  if (!coupon) return '';
  const { off } = coupon;
  return levels
    .filter((level) => (coupon.levels.length === 0 || coupon.levels.includes(level.id)) && level.minor > 0)
    .map((level) => {
      const less = off.kind === 'percent' ? Math.round((level.minor * off.percent) / 100) : off.minor;
      return `${level.name} ${moneyWords(Math.max(0, level.minor - less), level.currency)}`;
    })
    .join(', ');
}
