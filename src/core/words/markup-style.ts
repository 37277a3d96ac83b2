/** What the style of an element in pasted HTML means for its words. */
type Attribs = Readonly<Record<string, string>>;

/** Marks of a stretch of text, as far as a style or a tag sets them. */
export interface StyleMarks {
  strong?: true;
  em?: true;
}

/** Words that are not seen: hidden ones, and the bullets that a word processor writes before its list items. */
export function isUnseen({ style = '', hidden }: Attribs): boolean {
  return (
    hidden !== undefined || /display:\s*none|visibility:\s*hidden|mso-hide:\s*all/i.test(style) || isBullet({ style })
  );
}

/** The bullet or number of a list item, as a word processor writes it. */
export function isBullet({ style = '' }: Attribs): boolean {
  return /mso-list:\s*ignore/i.test(style);
}

/** A paragraph that is an item of a list, though no list stands around it. */
export function isListParagraph(name: string, { style = '', class: names = '' }: Attribs): boolean {
  return name === 'p' && (/mso-list:\s*l\d/i.test(style) || /\bMsoListParagraph/i.test(names));
}

/** True where a bullet counts: `1.`, `b)`. */
export function isNumber(bullet: string): boolean {
  return /^\s*(?:\d+|[a-z]{1,4})[.)]/i.test(bullet);
}

/**
 * The marks within an element: those around it, with what its tag and its style set or take away. What a style says
 * counts more than the tag, as it does to the eye: some editors wrap a whole text in a bold that is not bold.
 */
export function marksWithin<T extends StyleMarks>(around: T, name: string, { style = '' }: Attribs): T {
  const { strong, em, ...rest } = around;
  const weight = /font-weight:\s*([a-z]+|\d+)/i.exec(style)?.[1]?.toLowerCase();
  const slant = /font-style:\s*([a-z]+)/i.exec(style)?.[1]?.toLowerCase();
  const heavy =
    weight === undefined || weight === 'inherit'
      ? (strong ?? (name === 'strong' || name === 'b'))
      : weight.startsWith('bold') || Number(weight) >= 600;
  const leaning =
    slant === undefined || slant === 'inherit' ? (em ?? (name === 'em' || name === 'i')) : slant !== 'normal';
  return { ...rest, ...(heavy ? { strong: true } : {}), ...(leaning ? { em: true } : {}) } as T;
}
