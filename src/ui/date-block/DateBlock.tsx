import { dateParts, longDate } from '@/core/dates/date-words';
import type { Precision } from '@/core/record/choices';
import classes from './DateBlock.module.css';

interface DateBlockProps {
  /** Calendar date, YYYY-MM-DD; empty where none is known. */
  date: string;
  /** `large` for the head of a record. */
  size?: 'row' | 'large';
  /** How much of the date is known. */
  precision?: Precision;
  /** Year of "today": another year is shown beside the month. */
  thisYear: number;
}

/** A date, set the same everywhere: the day large, weekday over month beside it. */
export function DateBlock({ date, size = 'row', precision = 'exact', thisYear }: DateBlockProps) {
  if (date === '' || precision === 'open')
    return (
      <span className={classes.block} data-size={size}>
        <span className={classes.day}>–</span>
        <span className={classes.weekday}>date</span>
        <span className={classes.month}>open</span>
      </span>
    );
  const { day, weekday, month, year } = dateParts(date);
  const shortYear = year === thisYear ? '' : ` ’${String(year).slice(2)}`;
  // Only the month is known: the day's place stays empty, and the month stands where the weekday would.
  if (precision === 'month')
    return (
      <time
        dateTime={date.slice(0, 7)}
        className={classes.block}
        data-size={size}
        title={`${month} ${year}, date to follow`}
      >
        <span className={classes.day}>–</span>
        <span className={classes.weekday}>
          {month.slice(0, 3)}
          {shortYear}
        </span>
        <span className={classes.month}>day open</span>
      </time>
    );
  return (
    <time dateTime={date} className={classes.block} data-size={size} title={longDate(date)}>
      <span className={classes.day}>{day}</span>
      <span className={classes.weekday}>{weekday.slice(0, 3)}</span>
      <span className={classes.month}>
        {month.slice(0, 3)}
        {shortYear}
      </span>
    </time>
  );
}
