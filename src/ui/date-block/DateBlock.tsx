import { dateParts, longDate } from '@/core/date-words';
import classes from './DateBlock.module.css';

interface DateBlockProps {
  /** Calendar date, YYYY-MM-DD; empty where none is known. */
  date: string;
  /** `large` for the head of a record. */
  size?: 'row' | 'large';
  /** Year of "today": another year is shown beside the month. */
  thisYear: number;
}

/** A date, set the same everywhere: the day large, weekday over month beside it. */
export function DateBlock({ date, size = 'row', thisYear }: DateBlockProps) {
  if (date === '') return <span className={classes.block} data-size={size}><span className={classes.day}>–</span><span className={classes.weekday}>date</span><span className={classes.month}>open</span></span>;
  const { day, weekday, month, year } = dateParts(date);
  return (
    <time dateTime={date} className={classes.block} data-size={size} title={longDate(date)}>
      <span className={classes.day}>{day}</span>
      <span className={classes.weekday}>{weekday.slice(0, 3)}</span>
      <span className={classes.month}>{month.slice(0, 3)}{year === thisYear ? '' : ` ’${String(year).slice(2)}`}</span>
    </time>
  );
}
