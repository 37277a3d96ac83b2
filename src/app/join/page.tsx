import { Join } from '@/ui/door/Join';

export const metadata = { title: 'Come in' };

export default function JoinPage() {
  return <Join />;
}
