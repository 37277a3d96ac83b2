import { eventTypes } from '@/core/record/choices';
import { placesOf } from '@/core/record/places';
import { isPost } from '@/core/listing/channel-rules';
import type { Doer } from '@/core/people/doer';
import { channelsOf, type House } from '@/house/house';
import { houseOwn } from '@/house/house-own';
import { allVenues } from '@/store/venues';
import type { ManyChoices } from '@/views/many';
import { asks } from '../people/rights-of-verbs';

/** What can be chosen for an edit of many events. */
export function manyChoices(house: House, doer: Doer): ManyChoices {
  asks(doer, 'manyChoices');
  const { db } = house;
  return {
    places: placesOf(allVenues(db)),
    eventTypes: [...new Set([...eventTypes, ...houseOwn.of(db).types])],
    posts: channelsOf(house, db).flatMap(({ row, rules }) =>
      row.connected && isPost(rules) ? [{ value: row.id, label: rules.name }] : [],
    ),
  };
}
