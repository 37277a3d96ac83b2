import { health } from '@/desk/house/health';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

/** How the house is, for a probe. */
export async function GET() {
  try {
    return Response.json(await health(theHouse()));
  } catch (error) {
    console.error('health:', error);
    return Response.json({ ok: false, message: 'the database cannot be read' }, { status: 500 });
  }
}
