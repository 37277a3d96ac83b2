import { standings, standingWords } from '@/core/listing/standing';
import { Pennant } from './Pennant';
import classes from './PennantLegend.module.css';

/** What each pennant means, in the order of their urgency. */
export function PennantLegend() {
  return (
    <dl className={classes.legend}>
      {standings.map((standing) => (
        <div key={standing} className={classes.row}>
          <dt>
            <Pennant standing={standing} silent /> {standingWords[standing].name}
          </dt>
          <dd>{standingWords[standing].meaning}</dd>
        </div>
      ))}
    </dl>
  );
}
