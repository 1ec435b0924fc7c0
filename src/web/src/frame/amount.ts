/**
 * A number as it is typed in any form, with a comma or a point. What could be two numbers is none: “1,500” is one and a half or fifteen
 * hundred, and a plate's watts would be a thousandth of what they are. Readings keep to the same rule (ReadingEntry in Core).
 *
 * @returns NaN for what is no number, so that a form can refuse to send it; 0 for an empty text, as Number does.
 */
export const amountOf = (text: string) => (couldBeTwo(text) ? NaN : Number(text.trim().replace(',', '.')));

/** Why a text is no number, for whoever typed it; null where it is one, or nothing was typed. */
export function amountTrouble(text: string): string | null {
  if (text.trim() === '' || !Number.isNaN(amountOf(text))) return null;
  if (!couldBeTwo(text)) return 'A number, please.';
  const digits = text.trim();
  return `“${digits}” could be ${digits.replace(',', '.')} or ${digits.replace(',', '')}; write it with a point.`;
}

/** Three digits after a comma, and before it a number that could count thousands. */
const couldBeTwo = (text: string) => /^[+-]?[1-9]\d*,\d{3}$/.test(text.trim());
