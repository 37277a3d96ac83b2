import { theDoer } from '@/app/who-asks';
import Link from 'next/link';
import { knownDayWords } from '@/core/dates/date-words';
import { theHouse } from '@/desk/house/the-house';
import { tourList } from '@/desk/tours/tours';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import classes from '@/ui/tours/Tours.module.css';

export const metadata = { title: 'Tours' };

export default async function ToursPage() {
  const doer = await theDoer('browse');
  const tours = tourList(theHouse(), doer);
  return (
    <div className={classes.page}>
      <RefreshOnPulse />
      <div className={classes.head}>
        <h1>Tours</h1>
        <span>dates that share an act, words and pictures, each with its own place, promoter and link</span>
      </div>
      {tours.length === 0 ? (
        <p className={classes.muted}>
          No tour yet. Open the record of its first date and choose “Make a tour of it”; the other dates are then pasted
          as a table.
        </p>
      ) : null}
      <ul className={classes.list}>
        {tours.map((tour) => (
          <li key={tour.id}>
            <Link href={`/tours/${tour.id}`}>
              <b>{tour.name}</b>
            </Link>
            <span className={classes.muted}>
              {tour.dates} {tour.dates === 1 ? 'date' : 'dates'}
              {tour.first === '' ? '' : `, ${knownDayWords(tour.first, false)} to ${knownDayWords(tour.last)}`}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
