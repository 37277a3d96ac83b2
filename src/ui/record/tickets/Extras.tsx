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
    onChange({ extras: extras.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  return (
    <>
      {extras.map((one, i) => (
        <div key={one.id} role="group" aria-label={`Extra ${i + 1}`}>
          <div className={classes.inline}>
            <TextInput
              w={130}
              label="Extra"
              autoFocus={one.name === ''}
              value={one.name}
              error={error(`tickets.extras.${i}.name`)}
              onChange={(e) => set(one.id, { name: e.currentTarget.value })}
            />
            <TextInput
              w={70}
              label="Price"
              value={one.price}
              inputMode="decimal"
              {...narrow(error, `tickets.extras.${i}`, 'price')}
              onChange={(e) => set(one.id, { price: e.currentTarget.value })}
            />
            <TextInput
              w={70}
              label="So many"
              value={one.quantity}
              placeholder="any"
              inputMode="numeric"
              {...narrow(error, `tickets.extras.${i}`, 'quantity')}
              onChange={(e) => set(one.id, { quantity: e.currentTarget.value })}
            />
            <TextInput
              style={{ flex: 1, minWidth: 120 }}
              label="In public words"
              value={one.words}
              error={error(`tickets.extras.${i}.words`)}
              onChange={(e) => set(one.id, { words: e.currentTarget.value })}
            />
            <button
              type="button"
              className="plainButton"
              aria-label={`Take out ${one.name || 'this extra'}`}
              onClick={() => onChange({ extras: extras.filter((each) => each.id !== one.id) })}
            >
              out
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
export function Coupons({ tickets, onChange, error, facts }: ExtrasProps) {
  const { coupons, levels } = tickets;
  const set = (id: string, part: Partial<CouponDraft>) =>
    onChange({ coupons: coupons.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  return (
    <>
      {coupons.map((one, i) => {
        const at = `tickets.coupons.${i}`;
        const sums = couponSums(facts, one.id);
        return (
          <div key={one.id} role="group" aria-label={`Coupon ${i + 1}`}>
            <div className={classes.inline}>
              <TextInput
                w={110}
                label="Coupon"
                autoFocus={one.code === ''}
                value={one.code}
                error={error(`${at}.code`)}
                onChange={(e) => set(one.id, { code: e.currentTarget.value })}
              />
              <TextInput
                w={64}
                label="Takes off"
                value={one.off.text}
                {...narrow(error, at, 'off')}
                onChange={(e) => set(one.id, { off: { ...one.off, text: e.currentTarget.value } })}
              />
              <Select
                w={82}
                label="in"
                data={[
                  { value: 'percent', label: '%' },
                  { value: 'amount', label: tickets.currency },
                ]}
                value={one.off.kind}
                allowDeselect={false}
                onChange={(kind) =>
                  set(one.id, { off: { ...one.off, kind: kind === 'amount' ? 'amount' : 'percent' } })
                }
              />
              <TextInput
                w={64}
                label="Uses"
                value={one.uses}
                placeholder="any"
                {...narrow(error, at, 'uses')}
                onChange={(e) => set(one.id, { uses: e.currentTarget.value })}
              />
              <DateField
                w={150}
                label="From"
                value={one.from}
                placeholder="at once"
                onDate={(from) => set(one.id, { from })}
                onClear={() => set(one.id, { from: null })}
              />
              <DateField
                w={150}
                label="Until"
                value={one.until}
                placeholder="the start"
                onDate={(until) => set(one.id, { until })}
                onClear={() => set(one.id, { until: null })}
                error={error(`${at}.until`)}
              />
              <button
                type="button"
                className="plainButton"
                aria-label={`Take out the coupon ${one.code}`}
                onClick={() => onChange({ coupons: coupons.filter((each) => each.id !== one.id) })}
              >
                out
              </button>
            </div>
            {levels.length > 1 ? (
              <MultiSelect
                mt={4}
                aria-label={`Price levels of the coupon ${one.code}`}
                placeholder={one.levels.length === 0 ? 'for all price levels' : ''}
                data={levels.map((level) => ({ value: level.id, label: level.name || 'unnamed' }))}
                value={one.levels}
                error={error(`${at}.levels`)}
                onChange={(own) => set(one.id, { levels: own })}
              />
            ) : null}
            {sums === '' ? null : <p className={classes.underLine}>{sums}</p>}
            <RowProblems error={error} row={at} fields={['off', 'uses']} />
          </div>
        );
      })}
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

/** `Standard €17.60, Reduced €12.80`: what is paid with a coupon, before any fee. */
function couponSums({ coupons, levels }: Facts, id: string): string {
  const coupon = coupons.find((one) => one.id === id);
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
