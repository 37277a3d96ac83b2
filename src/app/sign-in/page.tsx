import { redirect } from 'next/navigation';
import { whoAsks } from '@/app/who-asks';
import { SignIn } from '@/ui/door/SignIn';

export const metadata = { title: 'Sign in' };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string | string[] }> }) {
  const { to } = await searchParams;
  if ((await whoAsks()) !== null) redirect('/season');
  return <SignIn to={typeof to === 'string' ? to : '/season'} />;
}
