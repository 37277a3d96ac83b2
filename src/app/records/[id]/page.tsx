import { theDoer } from '@/app/who-asks';
import { zoneNames } from '@/core/base/zones';
import { channelList } from '@/desk/channels/channels-view';
import { zonesOf } from '@/desk/house/zones-of';
import { ChannelsProvider } from '@/ui/use-channels';
import { HaveZones } from '@/ui/zones/HaveZones';
import { recordIdSchema } from '@/core/base/ids';
import { notFound } from 'next/navigation';
import { houseZone } from '@/desk/house/pulse';
import { recordTitle, recordView } from '@/desk/records/record-view';
import { theHouse } from '@/desk/house/the-house';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import { SavedRecord } from './SavedRecord';

interface RecordPageProps {
  params: Promise<{ id: string }>;
}

export async function generateMetadata({ params }: RecordPageProps) {
  const doer = await theDoer();
  const id = recordIdSchema.safeParse((await params).id).data;
  return { title: (id && recordTitle(theHouse(), doer, id)) ?? 'Record' };
}

export default async function RecordPage({ params }: RecordPageProps) {
  const doer = await theDoer();
  const house = theHouse();
  const id = recordIdSchema.safeParse((await params).id).data;
  const view = id && recordView(house, doer, id);
  if (!view) notFound();
  const { log, ...context } = view;
  return (
    <HaveZones zones={zonesOf(context)} names={zoneNames()}>
      <ChannelsProvider rows={channelList(house, doer).map(({ row }) => row)}>
        <RefreshOnPulse />
        <SavedRecord key={view.id} context={context} log={log} zone={houseZone(house)} />
      </ChannelsProvider>
    </HaveZones>
  );
}
