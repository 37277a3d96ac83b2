import classes from './page.module.css';

export default function Loading() {
  return (
    <div className={classes.page} role="status">
      <p className={classes.lead}>Reading …</p>
    </div>
  );
}
