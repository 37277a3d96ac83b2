import { DomUtils, parseDocument } from 'htmlparser2';

/** What a person at a place can do to a listing by hand, and by which act of its owner's page. */
export const hands = {
  edited: { label: 'Edit a listing', act: 'save' },
  'item removed': { label: 'Take a date out', act: 'less' },
  deleted: { label: 'Delete a listing', act: 'delete' },
  doubled: { label: 'Double a listing', act: 'double' },
  'turned down': { label: 'Turn a listing down', act: 'down' },
} as const;
export type Hand = keyof typeof hands;

type Ask = (path: string, form?: Record<string, string>) => Promise<Response>;

/**
 * Does by hand what an owner's page lets be done, to the listing `of` or the newest: it goes through the page itself,
 * as a person would. Gives the listing, or why it could not be.
 */
export async function byHand(
  ask: Ask,
  name: string,
  hand: Hand,
  of?: string,
): Promise<{ of: string } | { why: string }> {
  const list = parseDocument(await (await ask(`/${name}/owner`)).text());
  const begin = `/${name}/owner/`;
  const ids = DomUtils.getElementsByTagName('a', list)
    .map((element) => element.attribs.href ?? '')
    .filter((href) => href.startsWith(begin))
    .map((href) => href.slice(begin.length));
  const id = of ?? ids.findLast((id) => !id.includes('/')) ?? ids.at(-1);
  if (id === undefined) return { why: 'nothing stands there' };
  const shown = await ask(`${begin}${id}`);
  if (!shown.ok) return { why: `there is no listing ${id}` };
  const form = parseDocument(await shown.text());
  const { act } = hands[hand];
  const acts = DomUtils.getElementsByTagName('button', form).map((element) => element.attribs.value);
  if (!acts.includes(act)) return { why: 'that cannot be done to it there' };
  const fields = DomUtils.findAll((el) => el.name === 'input' || el.name === 'textarea', form.children);
  const typed = fields.map((el): [string, string] => [
    el.attribs.name ?? '',
    el.name === 'input' ? (el.attribs.value ?? '') : DomUtils.textContent(el),
  ]);
  if (hand === 'edited' && typed[0]) typed[0][1] = 'Edited there';
  const answer = await ask(`${begin}${id}`, { ...Object.fromEntries(typed), act });
  return answer.status < 400 && answer.status !== 200 ? { of: id } : { why: 'its form did not take it' };
}
