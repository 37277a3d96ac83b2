'use client';

import classes from './page.module.css';

export default function ErrorPage({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <div className={classes.page} role="alert">
      <h1>This screen could not be shown</h1>
      <p>Nothing was changed by it. {error.digest ? <span className="code">{error.digest}</span> : null}</p>
      <button type="button" className="quietButton" onClick={reset}>
        Try again
      </button>
    </div>
  );
}
