import { mayDo } from '@/core/people/doer';
import { theDoer } from '@/app/who-asks';
import Link from 'next/link';
import { zoneDataVersion } from '@/core/base/zones';
import { channelsView } from '@/desk/channels/channels-view';
import { theHouse } from '@/desk/house/the-house';
import { ChannelCard } from '@/ui/channels/ChannelCard';
import { ChannelsList } from '@/ui/channels/ChannelsList';
import { NewChannel } from '@/ui/channels/NewChannel';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import classes from './channels.module.css';
import {
  allowHostAction,
  audienceAction,
  leaveAction,
  bringBackAction,
  categoriesAction,
  connectAction,
  disconnectAction,
  handRulesAction,
  renameAction,
  renewFeedAction,
} from './actions';

/** The channels: all of them on the left, the chosen one, or a new one, on the right. */
export const metadata = { title: 'Channels' };

export default async function ChannelsPage({
  searchParams,
}: {
  searchParams: Promise<{ channel?: string; new?: string }>;
}) {
  const doer = await theDoer('browse');
  const { channels, kinds, groups } = channelsView(theHouse(), doer);
  const { channel, new: kind } = await searchParams;
  const keeps = mayDo(doer, 'keep');
  const making = keeps && (kind !== undefined || channels.length === 0);
  const chosen = channels.find((candidate) => candidate.id === channel) ?? channels[0];
  return (
    <div className={classes.two}>
      <RefreshOnPulse />
      <div className={classes.left}>
        <header>
          <h1>Channels</h1>
          {keeps ? <Link href="/channels?new">Connect one</Link> : null}
        </header>
        {channels.length === 0 ? <p>No channel is connected yet. Connect the first one.</p> : null}
        <ChannelsList channels={channels} groups={groups} chosen={making ? null : (chosen?.id ?? null)} />
        <p className={classes.zone}>Local times are reckoned on IANA zone data {zoneDataVersion}.</p>
      </div>
      <div className={classes.right}>
        {making ? (
          <NewChannel kinds={kinds} groups={groups} connect={connectAction} />
        ) : !chosen ? null : (
          <ChannelCard
            key={chosen.id}
            channel={chosen}
            connect={connectAction}
            renewFeed={renewFeedAction}
            keepHandRules={handRulesAction}
            disconnect={disconnectAction}
            bringBack={bringBackAction}
            rename={renameAction}
            sayAudience={audienceAction}
            giveLeave={leaveAction}
            mapCategories={categoriesAction}
            allowHost={allowHostAction}
          />
        )}
      </div>
    </div>
  );
}
