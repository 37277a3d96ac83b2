import { theDoer } from '@/app/who-asks';
import { zonesOf } from '@/desk/house/zones-of';
import { HaveZones } from '@/ui/zones/HaveZones';
import { ReadNow } from '@/ui/drift/ReadNow';
import { momentWords } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import { houseZone } from '@/desk/house/pulse';
import { readBackView } from '@/desk/drift/read-back-view';
import { theHouse } from '@/desk/house/the-house';
import { ReadBackList } from '@/ui/drift/ReadBackList';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import classes from '../page.module.css';
import {
  keepTheirsAction,
  letGoAction,
  readNowAction,
  sendOursAction,
  takeTheirsAction,
  takeTwinDownAction,
} from './actions';

export const metadata = { title: 'Read-back' };

export default async function ReadBackPage() {
  const doer = await theDoer('browse');
  const house = theHouse();
  const zone = houseZone(house);
  const { asks, inStep, unread, readAt } = readBackView(house, doer);
  return (
    <HaveZones zones={zonesOf(asks)}>
      <div className={classes.page}>
        <RefreshOnPulse />
        <h1>Read-back</h1>
        <div className={classes.lead}>
          <span>
            {asks.length === 0
              ? inStep === 0
                ? 'Nothing stands outside yet.'
                : 'Every channel shows what was sent.'
              : `${asks.length} ${asks.length === 1 ? 'listing needs' : 'listings need'} a decision.`}{' '}
            {inStep} in step{unread > 0 ? `, ${unread} not read yet` : ''}
            {readAt === null ? '' : `; last read ${momentWords(readAt, zone)}`}.
          </span>
          <ReadNow read={readNowAction} />
        </div>
        <ReadBackList
          asks={asks}
          year={Number(toLocal(house.clock.now(), zone).date.slice(0, 4))}
          zone={zone}
          decide={{
            ours: sendOursAction,
            theirs: takeTheirsAction,
            here: keepTheirsAction,
            go: letGoAction,
            oneDown: takeTwinDownAction,
          }}
        />
      </div>
    </HaveZones>
  );
}
