import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { MiddlewareHandler } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import { html } from 'hono/html';
import { page } from './page';

const cookie = 'outside-key';
/** The header under which a program gives the key. */
export const keyHeader = 'x-outside-key';

/** The key of the owner's pages, the weather and the accounts, kept in `folder` and made where there is none. */
export function keptKey(folder: string): string {
  const file = path.join(folder, 'key');
  if (existsSync(file)) return readFileSync(file, 'utf8').trim();
  mkdirSync(folder, { recursive: true });
  const key = randomBytes(12).toString('base64url');
  writeFileSync(file, `${key}\n`);
  chmodSync(file, 0o600);
  return key;
}

const style =
  'body { background: #20262b; color: #e8e4da; padding: 40px 8vw } h1 { font: 700 28px Display } input { padding: 7px 10px; width: 300px } button { padding: 8px 16px }';

/**
 * Lets in whoever has the key: by header, by the cookie that it left, or by `?key=` once, which leaves it. Nobody else:
 * what lies behind it is not for the public.
 */
export function withKey(key: string): MiddlewareHandler {
  return async (c, next) => {
    const asked = c.req.query('key');
    if (asked === key) {
      setCookie(c, cookie, key, { httpOnly: true, sameSite: 'Lax', path: '/' });
      if (c.req.method === 'GET') return c.redirect(c.req.path);
    }
    if (asked === key || c.req.header(keyHeader) === key || getCookie(c, cookie) === key) return next();
    if (!c.req.header('accept')?.includes('text/html'))
      return c.json({ message: `the key is needed, in the header ${keyHeader}` }, 403);
    return c.html(
      page(
        'Key',
        style,
        html`<h1>This wants the key</h1>
          <p>The demo prints it when it starts; it is kept beside the data of the outside, in the file “key”.</p>
          <form method="get" action="${c.req.path}">
            <label>Key <input name="key" autocomplete="off" /></label> <button>Go on</button>
          </form>
          ${asked === undefined ? '' : html`<p role="alert">That is not it.</p>`}`,
      ),
      403,
    );
  };
}
