import { machineDoer } from '@/core/people/doer';
import { asItWas, dataFolder, openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';
import { leaseMs } from '@/house/leadership';
import { leaseNow } from '@/store/lease';
import { doVerb, verbSends } from './verbs';

/** Longest that a verb works the queue by itself, where no application does. */
const longestMs = 120_000;

/** Carries out one verb on the data folder and ends: 0 where it was done, 1 with a word where it was not. */
async function main(): Promise<number> {
  const [verb, ...args] = process.argv.slice(2);
  const house = openHouse(dataFolder(), process.env.NUNTIAX_CLOCK ?? asItWas);
  try {
    await house.follow();
    const answer = doVerb(
      house,
      verb,
      args,
      machineDoer(process.env.NUNTIAX_ACTOR ? `a script (${process.env.NUNTIAX_ACTOR})` : 'a script'),
    );
    if (!answer.ok) {
      console.error(answer.error);
      return 1;
    }
    for (const line of answer.value) console.log(JSON.stringify(line));
    const lease = leaseNow(house.db);
    const worked = lease !== null && lease.boot !== '' && Date.now() - lease.at < leaseMs;
    if (verbSends(verb) && !worked) await workOff(house);
    return 0;
  } catch (error) {
    console.error(error instanceof Error ? error.message : String(error));
    return 1;
  } finally {
    house.db.close();
  }
}

/** No application works the queue: it is worked off here. */
async function workOff(house: ReturnType<typeof openHouse>): Promise<void> {
  const runner = startRunner(house);
  const until = Date.now() + longestMs;
  do await new Promise((resolve) => setTimeout(resolve, 150));
  while (!runner.idle() && Date.now() < until);
  await runner.stop();
}

// Whoever reads this may have had enough of it.
process.stdout.on('error', () => process.exit(0));
const code = await main();
// What was printed is read to its end before the process goes.
await new Promise((done) => process.stdout.write('', done));
process.exit(code);
