import { notFound } from 'next/navigation';
import { theDoer } from '@/app/who-asks';
import { handSheet } from '@/desk/dispatch/by-hand';
import { theHouse } from '@/desk/house/the-house';
import { HandSheetScreen } from '@/ui/by-hand/HandSheetScreen';
import { handDoneAction, handFailedAction } from '../actions';

interface HandPageProps {
  params: Promise<{ id: string }>;
}

export const metadata = { title: 'By hand' };

export default async function HandPage({ params }: HandPageProps) {
  const doer = await theDoer('browse');
  const id = Number((await params).id);
  const sheet = Number.isSafeInteger(id) ? handSheet(theHouse(), doer, id) : null;
  if (!sheet) notFound();
  return (
    <HandSheetScreen sheet={sheet} done={handDoneAction.bind(null, id)} failed={handFailedAction.bind(null, id)} />
  );
}
