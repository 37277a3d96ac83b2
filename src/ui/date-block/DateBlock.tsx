import { dateParts, longDate, type KnownDay } from '@/core/dates/date-words';
import classes from './DateBlock.module.css';

interface DateBlockProps {
  /** The day as far as it is known. */
  date: KnownDay;
  /** `large` for the head of a record. */
  size?: 'row' | 'large';
  /** Year of "today": another year is shown beside the month. */
  thisYear: number;
}

/** A date, set the same everywhere: the day large, weekday over month beside it. */
export function DateBlock({ date, size = 'row', thisYear }: DateBlockProps) {
  if (date === '')
    return (
      <span className={classes.block} data-size={size}>
        <span className={classes.day}>–</span>
        <span className={classes.weekday}>date</span>
        <span className={classes.month}>open</span>
      </span>
    );
  const { day, weekday, month, year } = dateParts(`${date}-01`.slice(0, 10));
  const shortYear = year === thisYear ? '' : ` ’${String(year).slice(2)}`;
  // Only the month is known: the day's place stays empty, and the month stands where the weekday would.
  if (date.length === 7)
    return (
      <time dateTime={date} className={classes.block} data-size={size} title={`${month} ${year}, date to follow`}>
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
