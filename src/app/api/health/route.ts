import { health } from '@/desk/house/health';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

/** Whether the house is well, for a probe: anybody may ask, and is told nothing else. */
export function GET() {
  try {
    return Response.json({ ok: health(theHouse()).ok });
  } catch (error) {
    console.error('health:', error);
    return Response.json({ ok: false }, { status: 500 });
  }
}
