import { headers } from 'next/headers';
import { notFound } from 'next/navigation';
import { theDoer } from '@/app/who-asks';
import { houseZone } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { zonesOf } from '@/desk/house/zones-of';
import { ownView } from '@/desk/people/own-account';
import { You } from '@/ui/door/You';
import { HaveZones } from '@/ui/zones/HaveZones';
import { endSessionAction } from '../people/actions';

export const metadata = { title: 'You' };

export default async function YouPage() {
  const doer = await theDoer();
  const house = theHouse();
  const own = await ownView(house, doer, await headers());
  if (own === null) notFound();
  const zone = houseZone(house);
  return (
    <HaveZones zones={zonesOf({ zone })}>
      <You own={own} zone={zone} endSession={endSessionAction} />
    </HaveZones>
  );
}
