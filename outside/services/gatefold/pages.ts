import { html } from 'hono/html';
import { z } from 'zod';
import { ownerPages } from '../../entries';
import { eventLd, type EventData } from '../../ld';
import { asHtml, page, readLocal, say, stamp } from '../../page';
import { shelf, type Listing, cameFrom, cameBy, leftOf, type Seller, sell } from './seller';

/** What the public sees, and where it buys. */
export function publicPages({ app, store, labelOf, base, callBack }: Seller): void {
  app.get('/images/:file', (c) => {
    const bytes = store.media(shelf, c.req.param('file'));
    return bytes ? c.body(new Uint8Array(bytes), 200, { 'content-type': 'image/jpeg' }) : c.notFound();
  });
  app.get('/', (c) =>
    c.html(
      page(
        'Gatefold',
        style,
        html`<header>Gatefold</header>
          <main>
            <h1>On sale</h1>
            ${store
              .list<Listing>(shelf)
              .filter((thing) => thing.body.state === 'open')
              .map(
                ({ id, body }) =>
                  html`<a class="row" href="/gatefold/e/${id}"><b>${body.name}</b><span>${firstStart(body)}</span></a>`,
              )}
          </main>`,
      ),
    ),
  );
  app.get('/e/:id', (c) => {
    const found = store.get<Listing>(shelf, c.req.param('id'));
    if (!found || found.body.state === 'draft' || found.body.state === 'closed')
      return c.html(page('Not on sale', style, html`<main><h1>Not on sale</h1></main>`), 404);
    const { body } = found;
    const venue = labelOf(body.venue_code);
    const url = `${base}/${shelf}/e/${found.id}`;
    const data: EventData = {
      name: body.name,
      url,
      dates: body.sessions.map((s) => ({
        start: Date.parse(s.starts_at),
        end: s.ends_at ? Date.parse(s.ends_at) : null,
        befell: s.standing === 'called off' ? 'cancelled' : s.standing ? 'postponed' : null,
      })),
      place: [body.room, venue].filter(Boolean).join(', '),
      offer: url,
      prices: body.levels.filter((l) => !l.hidden).map((l) => ({ name: l.name, price: l.face, currency: l.currency })),
      cancelled: body.state === 'cancelled',
      image: body.banner ? `${base}/${shelf}/images/${body.banner.file}` : null,
      about: body.summary,
    };
    return c.html(eventPage(body, venue, data, (c.req.query('via') ?? '').slice(0, 60)));
  });
  // A member of the public buys one, from the first level that is open.
  app.post('/e/:id', (c) => {
    const found = store.get<Listing>(shelf, c.req.param('id'));
    const { state } = found?.body ?? { state: 'draft' };
    if (!found || (state !== 'open' && state !== 'unlisted')) return c.text('Not on sale', 404);
    const sale = sell(found.body, 1);
    const via = (c.req.query('via') ?? '').slice(0, 60);
    if (sale.sold === found.body.sold)
      return c.html(page('Sold out', style, html`<main><h1>Sold out</h1></main>`), 409);
    store.change(shelf, found.id, { ...found.body, ...sale, ...cameBy(found.body, sale.sold, via) });
    callBack(shelf, found.body.account ?? 'gatefold-client', found.reference ?? '');
    return c.html(page('Bought', style, html`<main><h1>It is yours</h1><p>${found.body.name}</p></main>`));
  });
}

/** What the owner sees and does there by hand. */
export function ownerSide({ app, store, callBack }: Seller): void {
  // What the account still lacks before it can be paid out, and before its tax is in order; `ready` and `settled`:
  // nothing.
  app.post('/owner/payout', async (c) => {
    const word = z.string().min(1).max(60).optional();
    const { payout, tax } = z.object({ payout: word, tax: word }).parse(await c.req.parseBody());
    if (payout) store.putSetting('gatefold-payout', payout);
    if (tax) store.putSetting('gatefold-tax', tax);
    return c.json({ payout, tax });
  });
  const sells = (count: number) => ({
    label: ({ sold }: Listing) => (count === 1 ? `Sell a ticket (${sold} sold)` : `Sell ${count}`),
    does(body: Listing, { reference }: { reference: string | null }) {
      callBack(shelf, body.account ?? 'gatefold-client', reference ?? '');
      const sale = sell(body, count);
      return { ...body, ...sale, ...cameBy(body, sale.sold, cameFrom[body.sold % cameFrom.length] ?? '') };
    },
  });
  ownerPages<Listing>(app, {
    store,
    shelf,
    name: 'Gatefold',
    row: ({ body }) => ({ title: body.name, state: `${body.state}, ${body.sold} sold` }),
    fields: ({ name, summary, sessions: [first] }) => [
      { name: 'name', label: 'Title', value: name },
      { name: 'summary', label: 'Summary', value: summary ?? '', long: true },
      {
        name: 'starts',
        label: 'First session starts',
        value: first ? say(Date.parse(first.starts_at), first.timezone, 'YYYY-MM-DD HH:mm') : '',
      },
    ],
    edit(body, { name = '', summary = '', starts = '' }) {
      const at = readLocal(starts, body.sessions[0]?.timezone ?? 'UTC');
      if (at === null) return `“${starts}” is no date and time; write 2027-02-04 20:00`;
      const sessions = body.sessions.map((session, i) =>
        i === 0 ? { ...session, starts_at: `${stamp(at).slice(0, 19)}Z` } : session,
      );
      return { ...body, name, summary, sessions };
    },
    dates: 'sessions',
    acts: { sell: sells(1), 'sell-ten': sells(10) },
  });
}
const style = `
body { background: #eef3fb; color: #14213d } header { padding: 14px 7vw; background: #14213d; color: #ffd9a0; font: 700 20px Mono } main { max-width: 900px; margin: 30px auto; background: #fff; padding: 30px 36px }
h1 { font: 700 34px/1.1 Text; margin: 16px 0 4px } .row { display: flex; justify-content: space-between; padding: 11px 0; border-bottom: 1px dashed #9fb2d6; text-decoration: none } .stub { border-top: 2px dashed #9fb2d6; margin-top: 22px; padding-top: 14px }
.lvl { display: flex; justify-content: space-between; font: 500 17px Mono; padding: 6px 0 } .buy { background: #14213d; color: #ffd9a0; padding: 11px 22px; display: inline-block; margin-top: 12px; font-weight: 600 } .dim { color: #52618a }
`;
const firstStart = (listing: Listing) =>
  listing.sessions[0]
    ? say(Date.parse(listing.sessions[0].starts_at), listing.sessions[0].timezone, 'ddd D MMM, HH:mm')
    : '';

/** How many are left, from so few on as its seller wants that told. */
function leftWords(listing: Listing, session: string) {
  const [left, from] = [leftOf(listing, session), listing.tells_left_from ?? 0];
  return left !== null && left > 0 && left <= from ? html` · ${left} left` : '';
}

function eventPage(listing: Listing, venue: string, data: EventData, via: string) {
  return page(
    listing.name,
    style,
    html`<header>Gatefold</header>
      <main>
        ${eventLd(data)}
        ${listing.banner ? html`<img src="/gatefold/images/${listing.banner.file}" alt="${listing.banner.alt}" />` : ''}
        <h1>${listing.name}</h1>
        <p class="dim">${listing.summary ?? ''}</p>
        ${listing.sessions.map((s) =>
          s.standing === 'put off'
            ? html`<p>A date that is put off</p>`
            : html`<p>
              ${s.standing ? 'Called off: ' : ''}<b
                ><time datetime="${stamp(Date.parse(s.starts_at))}"
                  >${say(Date.parse(s.starts_at), s.timezone)}</time
                ></b
              >
              ${leftWords(listing, s.external_id)}${s.doors_at ? html` · doors ${say(Date.parse(s.doors_at), s.timezone, 'HH:mm')}` : ''}${s.ends_at ? html` · until ${say(Date.parse(s.ends_at), s.timezone, 'HH:mm')}` : ''}
            </p>`,
        )}
        <p>${listing.room ? `${listing.room}, ` : ''}${venue}${listing.street ? html`<br />${listing.street}` : ''}</p>
        ${asHtml(listing.description ?? '')}${listing.refund_terms ? html`<p class="dim">Refunds: ${listing.refund_terms}</p>` : ''}
        <div class="stub">
          ${listing.extras.map((e) => html`<div class="lvl"><span>+ ${e.name}</span><span>${e.face} ${e.currency}</span></div>`)}${listing.levels.filter((l) => !l.hidden).map((l) => html`<div class="lvl"><span>${l.name}${l.about ? html` <small>${l.about}</small>` : ''}${l.lets_in ? html` <small>lets in ${l.lets_in} people</small>` : ''}${l.open_price ? html` <small>or more, as you like</small>` : ''}${l.admits_to ? html` <small>${Array.isArray(l.admits_to) ? `for ${l.admits_to.length} dates` : `for any ${l.admits_to.any} dates`}</small>` : ''}${l.tax_percent ? html` <small>${l.tax_percent} % tax</small>` : ''}</span><span>${l.face} ${l.currency}</span></div>`)}${listing.own_fee ? html`<div class="lvl"><span>${listing.own_fee_as}, on each ticket</span><span>${listing.own_fee} ${listing.own_fee_currency}</span></div>` : ''}${listing.tax ? html`<p class="dim">${listing.tax === 'held' ? 'Prices hold the tax that is due.' : 'No tax is due.'}</p>` : ''}<form method="post" action="${data.url}${via === '' ? '' : `?via=${encodeURIComponent(via)}`}"><button class="buy">Buy one ticket</button></form>
        </div>
      </main>`,
  );
}
