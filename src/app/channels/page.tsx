import { zoneDataVersion } from '@/core/base/zones';
import { channelsView } from '@/desk/channels/channels-view';
import { theHouse } from '@/desk/house/the-house';
import { ChannelCard } from '@/ui/channels/ChannelCard';
import classes from '../page.module.css';
import { connectAction } from './actions';

export default function ChannelsPage() {
  return (
    <div className={classes.page}>
      <h1>Channels</h1>
      <p className={classes.lead}>
        Each channel’s habits, and how the house is known there. Local times are reckoned on IANA zone data{' '}
        {zoneDataVersion}.
      </p>
      {channelsView(theHouse()).map((one) => (
        <ChannelCard key={one.id} {...one} connect={connectAction} />
      ))}
    </div>
  );
}
