import { notFound } from 'next/navigation';
import { theHouse } from '@/desk/house/the-house';
import { tourView } from '@/desk/tours/tours';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import { TourScreen } from '@/ui/tours/TourScreen';
import { addTourDatesAction, saveTourAction, sharedOfDateAction } from '../actions';

export default async function TourPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const view = tourView(theHouse(), id);
  if (!view) notFound();
  return (
    <>
      <RefreshOnPulse />
      <TourScreen
        {...view}
        save={saveTourAction.bind(null, id)}
        addDates={addTourDatesAction.bind(null, id)}
        sharedOfDate={sharedOfDateAction}
      />
    </>
  );
}
