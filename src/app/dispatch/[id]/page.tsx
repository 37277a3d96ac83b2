import { theDoer } from '@/app/who-asks';
import { dispatchIdSchema } from '@/core/base/ids';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { momentWords } from '@/core/dates/date-words';
import { dispatchView } from '@/desk/dispatch/dispatch-view';
import { houseZone } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { untoldHolders } from '@/desk/dispatch/holders';
import { UntoldHolders } from '@/ui/dispatch/UntoldHolders';
import { DispatchWatch } from '@/ui/dispatch/DispatchWatch';
import { channelNames } from '@/desk/channels/channels-view';
import { zonesOf } from '@/desk/house/zones-of';
import { ChannelNamesProvider } from '@/ui/use-channels/channel-names';
import { HaveZones } from '@/ui/zones/HaveZones';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import classes from '../../page.module.css';
import { decideErrandAction, postToHoldersAction, sayHoldersAction } from '../actions';

export const metadata = { title: 'Dispatch' };

export default async function DispatchWatchPage({ params }: { params: Promise<{ id: string }> }) {
  const doer = await theDoer('browse');
  const house = theHouse();
  const id = dispatchIdSchema.safeParse((await params).id).data;
  const view = id && dispatchView(house, doer, id);
  if (!view) notFound();
  const zone = houseZone(house);
  return (
    <ChannelNamesProvider names={channelNames(house, doer)}>
      <HaveZones zones={zonesOf(view)}>
        <div className={classes.page}>
          <RefreshOnPulse />
          <h1>Dispatch of {momentWords(view.at, zone)}</h1>
          <p className={classes.lead}>
            by {view.actor} · {view.ended ? 'ended' : 'going out; it goes on without this screen'}{' '}
            <Link href="/read-back">Read-back</Link> <Link href="/dispatch">What else is to send</Link>
          </p>
          <UntoldHolders
            told={untoldHolders(house, doer)}
            zone={zone}
            say={sayHoldersAction}
            post={postToHoldersAction}
          />
          <DispatchWatch errands={view.errands} stays={view.stays} zone={zone} decide={decideErrandAction} />
        </div>
      </HaveZones>
    </ChannelNamesProvider>
  );
}
