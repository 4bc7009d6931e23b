/** Languages by tag (BCP 47). The second is made from the first, longer and accented: it shows what does not fit, and what is not in a catalogue. */
export const LANGUAGES = ['en-GB', 'en-XA'] as const;
export type Language = (typeof LANGUAGES)[number];

/** The language that suits a wish such as a query or an Accept-Language header; the first when none does. */
export const languageFor = (wish: string | null | undefined): Language =>
  LANGUAGES.find((one) => one.toLowerCase() === (wish ?? '').split(/[,;]/)[0]?.trim().toLowerCase()) ?? LANGUAGES[0];
