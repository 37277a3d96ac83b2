import type { Facts } from '@/core/facts/facts';
import { moneyWords, type Currency } from '@/core/base/money';
import type { House } from '@/core/facts/tickets/seats';
import classes from '../RecordForm.module.css';

/** The sums of one performance's house, where one looks for them. */
export function SeatSums({ facts, house, currency }: { facts: Facts; house: House; currency: Currency }) {
  const { price } = facts;
  const unknown = '–';
  const cells: [string, string, boolean?][] = [
    ['places', house.capacity === null ? unknown : String(house.capacity)],
    ['held back', String(house.held)],
    ['for sale', house.pool === null ? unknown : String(house.pool)],
    ['allocated', String(house.allocated), house.over > 0],
    ['sold', String(house.sold), house.oversold > 0],
    ['left', house.left === null ? unknown : String(house.left), house.left === 0],
    ['from', price.kind === 'priced' ? moneyWords(price.from, currency) : unknown],
    ['with fees', price.kind === 'priced' ? moneyWords(price.withFees, currency) : unknown],
    ['gross when full', house.grossWhenFull === null ? unknown : moneyWords(house.grossWhenFull, currency)],
    ['net', house.netWhenFull === null ? unknown : moneyWords(house.netWhenFull, currency)],
  ];
  return (
    <>
      <dl className={classes.house} aria-label="Sums of the house">
        {cells.map(([name, value, bad]) => (
          <div key={name} data-bad={bad || undefined}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {house.over > 0 ? (
        <p className="problem">
          The outlets hold {house.over} more than may be sold: nothing is sent until that is put right.
        </p>
      ) : null}
      {facts.levels
        .filter(
          (level) =>
            house.levels.find((levelSeats) => levelSeats.id === level.id)?.sellable === 0 &&
            !facts.performances.every((performance) => performance.soldOut),
        )
        .map((level) => (
          <p key={level.id} className={classes.muted}>
            Nobody can buy “{level.name}” now: no seat of it is left.
          </p>
        ))}
    </>
  );
}
