import { html } from 'hono/html';
import { page } from './page';

/** One field that the owner can edit by hand. */
export interface OwnerField {
  name: string;
  label: string;
  value: string;
  long?: boolean;
}

const style = `
body { background: #faf7f2; color: #2b2520; padding: 28px 32px; max-width: 780px }
h1 { font: 600 22px Display } p.note { color: #6d6257; margin: 0 0 18px } label { display: block; margin: 0 0 12px; color: #6d6257; font-size: 14px }
input, textarea { display: block; width: 100%; padding: 6px 8px; border: 1px solid #cbbfae; background: #fff; color: #2b2520; font-size: 16px } textarea { min-height: 110px }
button { padding: 7px 14px; border: 0; background: #2b2520; color: #faf7f2; margin-right: 8px; cursor: pointer } button.hard { background: #8f2d1d }
li { margin: 4px 0 } .err { color: #8f2d1d }
`;

/** The owner's list of what stands on a stand-in. */
export function ownerList(name: string, base: string, rows: { id: string; title: string; state: string }[]) {
  return page(
    `${name}: owner`,
    style,
    html`<h1>${name} · owner’s desk</h1>
      <p class="note">Whoever owns the page can edit here by hand.</p>
      ${rows.length === 0 ? html`<p>Nothing stands here yet.</p>` : ''}
      <ul>
        ${rows.map((row) => html`<li><a href="${base}/owner/${row.id}">${row.title}</a> · ${row.state}</li>`)}
      </ul>`,
  );
}

/** The owner's form for one thing. `buttons` are further acts, posted to the same address as `act`. */
export function ownerForm(
  name: string,
  back: string,
  fields: OwnerField[],
  buttons: { act: string; label: string }[],
  problem: string | null,
) {
  return page(
    `${name}: edit`,
    style,
    html`<h1>${name} · edit by hand</h1>
      ${problem ? html`<p class="err" role="alert">${problem}</p>` : ''}
      <form method="post">
        ${fields.map((field) => html`<label>${field.label}${field.long ? html`<textarea name="${field.name}">${field.value}</textarea>` : html`<input name="${field.name}" value="${field.value}">`}</label>`)}
        <button name="act" value="save">Save</button>
        ${buttons.map((button) => html`<button name="act" value="${button.act}">${button.label}</button>`)}
        <button class="hard" name="act" value="delete">Delete</button>
      </form>
      <p><a href="${back}">Back to the list</a></p>`,
  );
}
