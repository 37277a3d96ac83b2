import { recordIdSchema } from '@/core/base/ids';
import { notFound } from 'next/navigation';
import { houseZone } from '@/desk/house/pulse';
import { recordView } from '@/desk/records/record-view';
import { theHouse } from '@/desk/house/the-house';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import { SavedRecord } from './SavedRecord';

export default async function RecordPage({ params }: { params: Promise<{ id: string }> }) {
  const house = theHouse();
  const id = recordIdSchema.safeParse((await params).id).data;
  const view = id && recordView(house, id);
  if (!view) notFound();
  const { log, ...context } = view;
  return (
    <>
      <RefreshOnPulse />
      <SavedRecord key={view.id} context={context} log={log} zone={houseZone(house)} />
    </>
  );
}
