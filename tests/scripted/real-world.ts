import { by } from '@/core/testing/doers';
import sharp from 'sharp';
import { kinds } from '@/channels/kinds-rules';
import { newNotice, newPicture } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { performance, sample, suited } from '@/core/testing/samples';
import { addPicture } from '@/desk/records/add-picture';
import { feedUnder } from '@/house/feeds';
import type { Service } from '../../outside/stand-in';
import { shelves, StandIn, standInEntries } from './stand-in';
import { morning, World } from './world';

const poster = sharp({ create: { width: 1800, height: 1200, channels: 3, background: '#1c3d3a' } })
  .jpeg()
  .toBuffer();

const twoNights = [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')];

/**
 * Kinds that are written to over a wire: what only mirrors another is tried with that one, and nobody answers for what
 * lies at the house itself.
 */
export const writtenTo = kinds
  .filter((kind) => kind.rules({}).mirrors === null && kind.ours !== true)
  .map((kind) => kind.id);

/** A house with a real kind and its stand-in, and what an event must say that the kind takes. */
export async function realWorld(
  name: string,
  services: ReadonlyMap<string, Service>,
): Promise<{ world: World; place: StandIn; part: Partial<RecordContent> }> {
  const service = services.get(shelves[name]?.service ?? name);
  if (!service) throw new Error(`no stand-in for ${name}`);
  let made: World | null = null;
  const clock = { now: () => made?.now ?? morning, advance: () => undefined };
  const place = new StandIn(name, service, clock);
  // What one gives, the other waits for.
  const register = services.get('fernway');
  const givers =
    name === 'ostinato-highlights' && register ? standInEntries(new StandIn('fernway', register, clock)) : [];
  const world = (made = new World([...standInEntries(place), ...givers]));
  place.feed = () => feedUnder(world.house, world.feedKey(name)) ?? '';
  const picture = await addPicture(world.house, by('Maren'), 'harp.jpg', await poster);
  if (!picture.ok) throw new Error('no picture');
  const rules = kinds.find((kind) => kind.id === name)?.rules({});
  const notices = (rules?.notice ?? null) !== null;
  world.nameVenue('pennyseat', 'TYVAT');
  // Where an entry is one date, the run is about one.
  const performances =
    rules?.mostPerformances === 1 || rules?.answers === 'pulled' ? [performance('p1', '2027-03-14')] : twoNights;
  const posts = /-(posts|highlights)$/.test(name);
  const part = suited(name, {
    ...sample(),
    performances,
    pictures: [newPicture(picture.value, { alt: 'A harp', credit: 'us' })],
    tickets: sample().tickets,
    notices: notices ? [newNotice('n1', name, { words: 'Come and hear {{ title }}' })] : [],
    leftOff: posts ? [name.replace(/-(posts|highlights)$/, '')] : [],
  });
  return { world, place, part };
}
