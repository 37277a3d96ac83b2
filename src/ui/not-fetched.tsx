/** Stands where a part of a screen could not be fetched: the rest of the screen, and what was typed in it, stays. */
function NotFetched() {
  return (
    <p className="problem" role="alert">
      This part of the screen did not come from the house.{' '}
      <button type="button" className="plainButton" onClick={() => window.location.reload()}>
        Load this screen anew
      </button>
    </p>
  );
}

/** To be given where the fetching of a part failed. */
export const notFetched = () => NotFetched;
