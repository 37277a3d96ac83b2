import { demoHouse } from '@/house/demo-house';
import { theHouse } from '../house/the-house';
import { firstCode } from './invitations';

/**
 * Prints the one-time code for the first keeper, where nobody can sign in yet. Whoever reads what the start prints is
 * whoever has the machine.
 */
export function tellFirstCode(): void {
  try {
    const house = theHouse();
    if (demoHouse(house.db) !== null) return;
    const first = firstCode(house);
    if (first === null) return;
    console.log(
      `\n  Nobody can sign in here yet. The first keeper comes in by this, once and within a day:\n\n    ${first.link}\n\n  (or type the code ${first.code} at /join)\n`,
    );
  } catch (error) {
    console.error('no code for the first keeper could be made:', error);
  }
}
