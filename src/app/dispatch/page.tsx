import { theDoer } from '@/app/who-asks';
import { recordIdSchema } from '@/core/base/ids';
import Link from 'next/link';
import { z } from 'zod';
import { momentWords } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import { recentDispatches } from '@/desk/dispatch/dispatch-view';
import { houseZone } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { othersToSend, toSend, whyNothing } from '@/desk/dispatch/to-send';
import { leaveReadAction } from '@/app/channels/actions';
import { leaveToTell } from '@/desk/channels/standing-leave';
import { LeaveTold } from '@/ui/leave-told';
import { untoldHolders } from '@/desk/dispatch/holders';
import { UntoldHolders } from '@/ui/dispatch/UntoldHolders';
import { handTasks } from '@/desk/dispatch/by-hand';
import { HandTasks } from '@/ui/by-hand/HandTasks';
import { ToSendList } from '@/ui/dispatch/ToSendList';
import { channelNames } from '@/desk/channels/channels-view';
import { zonesOf } from '@/desk/house/zones-of';
import { ChannelNamesProvider } from '@/ui/use-channels/channel-names';
import { HaveZones } from '@/ui/zones/HaveZones';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import classes from '../page.module.css';
import {
  keepTheirsAction,
  letGoAction,
  sendOursAction,
  takeTheirsAction,
  takeTwinDownAction,
} from '../read-back/actions';
import { decideErrandAction, keepDraftAction, postToHoldersAction, sayHoldersAction, sendAction } from './actions';

/** So many events an address may name. */
const recordsSchema = z.array(recordIdSchema).min(1).max(300);

export const metadata = { title: 'Dispatch' };

export default async function DispatchPage({ searchParams }: { searchParams: Promise<{ record?: string }> }) {
  const doer = await theDoer('browse');
  const asked = (await searchParams).record;
  const records = recordsSchema.safeParse(asked?.split(',')).data;
  const house = theHouse();
  const zone = houseZone(house);
  const events = toSend(house, doer, records);
  const past = recentDispatches(house, doer);
  return (
    <ChannelNamesProvider names={channelNames(house, doer)}>
      <HaveZones zones={zonesOf(events)}>
        <div className={classes.page}>
          <RefreshOnPulse />
          <h1>Dispatch</h1>
          <p className={classes.lead}>What is to send, a change at a time, with the channels that take it.</p>
          <LeaveTold first={leaveToTell(house, doer)} read={leaveReadAction} />
          <HandTasks tasks={handTasks(house, doer)} zone={zone} now={house.clock.now()} />
          <UntoldHolders
            told={untoldHolders(house, doer)}
            zone={zone}
            say={sayHoldersAction}
            post={postToHoldersAction}
          />
          <ToSendList
            key={records?.join() ?? 'all'}
            events={events}
            year={Number(toLocal(house.clock.now(), zone).date.slice(0, 4))}
            nothing={events.length > 0 ? null : whyNothing(house, doer, records)}
            narrowed={records !== undefined}
            others={records === undefined ? 0 : othersToSend(house, doer, events)}
            send={sendAction}
            decide={{
              ours: sendOursAction,
              theirs: takeTheirsAction,
              here: keepTheirsAction,
              go: letGoAction,
              oneDown: takeTwinDownAction,
            }}
            keepDraft={keepDraftAction}
            decideErrand={decideErrandAction}
          />
          {past.length === 0 ? null : (
            <section className={classes.earlier}>
              <h2>Earlier dispatches</h2>
              <ul>
                {past.map((item) => (
                  <li key={item.id}>
                    <Link href={`/dispatch/${item.id}`}>{momentWords(item.at, zone)}</Link> by {item.actor}: {item.done}{' '}
                    sent
                    {item.running + item.waiting > 0 ? `, ${item.running + item.waiting} going out` : ''}
                    {item.refused > 0 ? <b className="problem">, {item.refused} refused</b> : ''}
                    {item.dropped > 0 ? `, ${item.dropped} dropped` : ''}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      </HaveZones>
    </ChannelNamesProvider>
  );
}
