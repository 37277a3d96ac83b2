import Link from 'next/link';
import classes from './page.module.css';

export default function NotFound() {
  return (
    <div className={classes.page}>
      <h1>Not here</h1>
      <p>
        There is nothing at this address. <Link href="/season">Go to the season</Link>.
      </p>
    </div>
  );
}
