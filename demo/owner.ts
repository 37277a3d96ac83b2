/** Whoever has the key of the outside may do by hand what its owners may. */
export const withKey = { 'x-outside-key': process.env.OUTSIDE_KEY ?? '' };

/** Undoes the escapes of HTML. */
const decode = (text: string) =>
  text
    .replace(/&#39;/g, "'")
    .replace(/&quot;/g, '"')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&amp;/g, '&');

/**
 * Opens an owner's page, finds the listing by its title as the page writes it, and posts its form once for each set of
 * changed fields.
 */
export async function owner(
  outside: string,
  channel: string,
  title: string,
  posts: Record<string, string>[],
): Promise<void> {
  const list = await (await fetch(`${outside}/${channel}/owner`, { headers: withKey })).text();
  const address = [...list.matchAll(/<a href="([^"]+)">([^<]*)<\/a>/g)].find(([, , words]) => words === title)?.[1];
  if (address === undefined) throw new Error(`${title} does not stand on ${channel}`);
  const form = await (await fetch(outside + address, { headers: withKey })).text();
  const typed = Object.fromEntries([
    ...[...form.matchAll(/<input name="(\w+)" value="([^"]*)" ?\/?>/g)].map(([, name = '', value = '']) => [
      name,
      decode(value),
    ]),
    ...[...form.matchAll(/<textarea name="(\w+)">([^<]*)<\/textarea>/g)].map(([, name = '', value = '']) => [
      name,
      decode(value),
    ]),
  ]);
  for (const fields of posts)
    await fetch(outside + address, {
      method: 'POST',
      headers: withKey,
      body: new URLSearchParams({ ...typed, act: 'save', ...fields }),
      redirect: 'manual',
    });
}

/** Edits one listing by hand. */
export function editByHand(
  outside: string,
  channel: string,
  title: string,
  fields: Record<string, string>,
): Promise<void> {
  return owner(outside, channel, title, [fields]);
}
