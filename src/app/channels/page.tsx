import { zoneDataVersion } from '@/core/base/zones';
import { channelsView } from '@/desk/channels/channels-view';
import { theHouse } from '@/desk/house/the-house';
import { ChannelCard } from '@/ui/channels/ChannelCard';
import { NewChannel } from '@/ui/channels/NewChannel';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import classes from '../page.module.css';
import { audienceAction, connectAction, disconnectAction, renameAction } from './actions';

export default function ChannelsPage() {
  const { channels, kinds } = channelsView(theHouse());
  return (
    <div className={classes.page}>
      <RefreshOnPulse />
      <h1>Channels</h1>
      <p className={classes.lead}>
        Each channel’s habits, and how the house is known there. Local times are reckoned on IANA zone data{' '}
        {zoneDataVersion}.
      </p>
      {channels.length === 0 ? <p>No channel is connected yet. Connect the first one below.</p> : null}
      {channels.map((one) => (
        <ChannelCard
          key={one.id}
          channel={one}
          connect={connectAction}
          disconnect={disconnectAction}
          rename={renameAction}
          sayAudience={audienceAction}
        />
      ))}
      <NewChannel kinds={kinds} connect={connectAction} />
    </div>
  );
}
