import { theDoer } from '@/app/who-asks';
import { zonesOf } from '@/desk/house/zones-of';
import { HaveZones } from '@/ui/zones/HaveZones';
import { notFound } from 'next/navigation';
import { makeFeedAction } from '@/app/channels/actions';
import { mayDo } from '@/core/people/doer';
import { calendarFeeds } from '@/desk/channels/calendar-feeds';
import { HaveFeeds, Subscribe } from '@/ui/subscribe';
import { theHouse } from '@/desk/house/the-house';
import { tourMap } from '@/desk/tours/tour-map';
import { tourName, tourView } from '@/desk/tours/tours';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import { TourScreen } from '@/ui/tours/TourScreen';
import { addTourDatesAction, saveTourAction, sharedOfDateAction } from '../actions';

interface TourPageProps {
  params: Promise<{ id: string }>;
}

export async function generateMetadata({ params }: TourPageProps) {
  const doer = await theDoer('browse');
  return { title: tourName(theHouse(), doer, (await params).id) ?? 'Tours' };
}

export default async function TourPage({ params }: TourPageProps) {
  const doer = await theDoer('browse');
  const { id } = await params;
  const view = tourView(theHouse(), doer, id);
  if (!view) notFound();
  return (
    <HaveZones zones={zonesOf(view)}>
      <RefreshOnPulse />
      <HaveFeeds feeds={calendarFeeds(theHouse(), doer)} make={mayDo(doer, 'keep') ? makeFeedAction : null}>
        <div className="toldAbove">
          <Subscribe holds={`tour:${id}`} name="this tour" />
        </div>
      </HaveFeeds>
      <TourScreen
        {...view}
        map={tourMap(view.stops.flatMap((stop) => stop.point ?? []))}
        save={saveTourAction.bind(null, id)}
        addDates={addTourDatesAction.bind(null, id)}
        sharedOfDate={sharedOfDateAction}
      />
    </HaveZones>
  );
}
