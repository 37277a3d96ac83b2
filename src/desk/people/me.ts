import { mayDo, rights, type Doer } from '@/core/people/doer';
import { demoHouse } from '@/house/demo-house';
import type { House } from '@/house/house';
import type { Me } from '@/views/me';

/** A doer as every screen knows it. */
export function meOf(house: Pick<House, 'db'>, doer: Doer): Me {
  const demo = demoHouse(house.db);
  return {
    name: doer.name,
    role: doer.role,
    rights: rights.filter((right) => mayDo(doer, right)),
    guest: doer.only !== null,
    others:
      demo && demo.persons.some(({ id }) => id === doer.id)
        ? demo.persons.map(({ id, name, role }) => ({ id, name, role, self: id === doer.id }))
        : null,
  };
}
