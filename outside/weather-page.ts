import { html } from 'hono/html';
import { hands } from './by-hand';
import { page, say } from './page';
import { fair, type Skies, type Weather } from './weather';

const hourMs = 3_600_000;

/** Every sort of trouble that a person can make with one press, by its name. */
export const sorts: Readonly<Record<string, { label: string; weather: Partial<Weather> }>> = {
  fair: { label: 'Fair', weather: { ...fair() } },
  down: { label: 'Down', weather: { down: true } },
  slow: { label: 'Slow to answer', weather: { slowMs: 4_000 } },
  'slow-body': { label: 'Slow after the headers', weather: { slowBodyMs: 20_000 } },
  drip: { label: 'Drips', weather: { dripMs: 500 } },
  errors: { label: 'One in three fails', weather: { errorRate: 0.33 } },
  lost: { label: 'Next answer lost', weather: { loseAnswers: 1 } },
  revoked: { label: 'Token revoked', weather: { revoked: true } },
  rate: { label: 'Two a second', weather: { mostPerSecond: 2 } },
  inside: { label: 'Error in a 200', weather: { spoil: { '*': { how: 'error inside', times: 1 } } } },
  redirect: { label: 'Led elsewhere', weather: { spoil: { '*': { how: 'redirect', times: 1 } } } },
  broken: { label: 'Broken answer', weather: { spoil: { '*': { how: 'broken', times: 1 } } } },
  monotonic: { label: 'Sells 12 an hour', weather: { salesPerHour: 12 } },
  rush: { label: 'A rush', weather: { salesPerHour: 600 } },
  'hooks-lost': { label: 'Calls lost', weather: { hooks: 'lost' } },
  'hooks-doubled': { label: 'Calls doubled', weather: { hooks: 'doubled' } },
  'hooks-forged': { label: 'Calls forged', weather: { hooks: 'forged' } },
  huge: { label: '200 MB of answer', weather: { spoil: { '*': { how: 'huge', times: 1 } } } },
};

const style = `
body { background: #20262b; color: #e8e4da; padding: 30px 6vw } h1 { font: 700 28px Display } table { border-collapse: collapse } td { padding: 6px 10px 6px 0; vertical-align: top } a { color: #f0c27a }
button { padding: 4px 9px; margin: 0 4px 4px 0; cursor: pointer; font-size: 14px } .now { color: #f0c27a }
`;

/** What is wrong with one of them now, in words. */
function troubleOf(weather: Weather): string {
  const usual = fair();
  return Object.entries(weather)
    .filter(
      ([name, value]) =>
        name !== 'counts' && name !== 'seed' && JSON.stringify(value) !== JSON.stringify(usual[name as keyof Weather]),
    )
    .map(([name, value]) => `${name}: ${typeof value === 'object' ? JSON.stringify(value) : String(value)}`)
    .join(', ');
}

/** The weather page: moves the clock and makes trouble for one of the stand-ins, or for all. */
export function weatherPage(skies: Skies, now: number, said: string) {
  const buttons = (name: string) =>
    html`<form method="post" action="/weather/${name}">
      ${Object.entries(sorts).map(([sort, { label }]) => html`<button name="sort" value="${sort}">${label}</button>`)}${name === 'all' ? '' : Object.entries(hands).map(([sort, { label }]) => html`<button name="sort" value="${sort}">${label}</button>`)}
    </form>`;
  return page(
    'Weather',
    style,
    html`<h1>Weather</h1>
      ${said === '' ? '' : html`<p role="status" class="now">${said}</p>`}
      <p>It is <b>${say(now, 'Europe/Dublin')}</b> in Dublin.</p>
      <form method="post" action="/clock">
        <button name="ms" value="${hourMs}">+1 h</button><button name="ms" value="${6 * hourMs}">+6 h</button
        ><button name="ms" value="${24 * hourMs}">+1 day</button>
      </form>
      <table>
        <tr>
          <td><b>All of them</b></td>
          <td>${buttons('all')}</td>
        </tr>
        ${[...skies].map(
          ([name, weather]) =>
            html`<tr>
              <td>
                <b>${name}</b><br /><span class="now">${troubleOf(weather) || 'fair'}</span><br /><a href="/${name}/owner">by hand</a>
              </td>
              <td>${buttons(name)}</td>
            </tr>`,
        )}
      </table>
      <p><a href="/">Back</a></p>`,
  );
}
