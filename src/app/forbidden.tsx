import Link from 'next/link';
import { whoAsks } from './who-asks';
import classes from './page.module.css';

export default async function Forbidden() {
  const doer = await whoAsks();
  const needsFactor = (doer?.withheld.length ?? 0) > 0;
  return (
    <div className={classes.page} role="alert">
      <h1>Not for you</h1>
      <p>
        {needsFactor ? (
          <>
            This asks a second factor. <Link href="/you">Set one up under your own name</Link>, then come back.
          </>
        ) : (
          <>
            {doer?.name ?? 'You'}, {doer?.role ?? 'nobody'}, may not see this. Whoever keeps the house can give you
            another role. <Link href="/season">Go to the season</Link>.
          </>
        )}
      </p>
    </div>
  );
}
